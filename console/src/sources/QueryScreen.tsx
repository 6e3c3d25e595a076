import { Button, NativeSelect, Textarea, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { type FormEvent, type KeyboardEvent, useState } from 'react';
import { go, type Screen } from '../address';
import { answered, api } from '../api/client';
import { sourcesQuery } from '../api/queries';
import type { QueryTrialInfo, SourceInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { Plan } from '../parts/Plan';
import { RowsTable } from '../parts/RowsTable';
import { Empty } from '../parts/States';
import { counted } from '../parts/words';

type Asked = Extract<Screen, { name: 'query' }>;

/** A query of one's own, tried before a record is made of it: it only reads. */
export function QueryScreen({ screen }: { screen: Asked }) {
  const sources = useQuery(sourcesQuery);
  const trial = useQuery({
    queryKey: ['query-trial', screen],
    queryFn: () =>
      answered(api.POST('/api/query-trials', { body: { source: screen.source, query: screen.query, values: screen.values } })),
    enabled: screen.query.trim() !== '',
    retry: false,
    refetchOnWindowFocus: false,
  });
  return (
    <>
      <div className="head">
        <div>
          <h1>Try a query</h1>
          <p>It only reads, 100 rows at most. A record of the app can be made of it afterwards: its key “query”.</p>
        </div>
        <Go to={{ name: 'sources' }}>Sources</Go>
      </div>
      <Loaded query={sources} what="the sources" rows={3}>
        {(all) =>
          all.length === 0 ? (
            <Empty title="The app has no sources" />
          ) : (
            <QueryForm screen={screen} sources={all} parameters={trial.data?.parameters ?? Object.keys(screen.values)} />
          )
        }
      </Loaded>
      <div role="status" className="quiet">
        {trial.isFetching ? 'The source is asked…' : ''}
      </div>
      {trial.error !== null && (
        <p className="trouble" role="alert">
          {trial.error.message}
        </p>
      )}
      {trial.data && <Result trial={trial.data} />}
    </>
  );
}

function QueryForm({ screen, sources, parameters }: { screen: Asked; sources: SourceInfo[]; parameters: string[] }) {
  const [source, setSource] = useState(screen.source || (sources[0]?.name ?? ''));
  const [query, setQuery] = useState(screen.query);
  const [values, setValues] = useState(screen.values);
  const run = (event: FormEvent | KeyboardEvent) => {
    event.preventDefault();
    go({ name: 'query', source, query, values: Object.fromEntries(parameters.map((name) => [name, values[name] ?? ''])) });
  };
  return (
    <form className="sheet query-form" aria-label="What is tried" onSubmit={run}>
      <NativeSelect
        label="Source"
        value={source}
        data={sources.map(({ name }) => name)}
        onChange={(chosen) => setSource(chosen.currentTarget.value)}
      />
      <Textarea
        label="Query"
        description="Named parameters are written :name. Ctrl-Enter runs it."
        autosize
        minRows={4}
        maxRows={16}
        spellCheck={false}
        classNames={{ input: 'mono' }}
        value={query}
        onChange={(typed) => setQuery(typed.currentTarget.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) run(event);
        }}
      />
      {parameters.length > 0 && (
        <fieldset className="line">
          <legend className="quiet">Values of its parameters; one that is left empty is null</legend>
          {parameters.map((name) => (
            <TextInput
              key={name}
              label={`:${name}`}
              value={values[name] ?? ''}
              spellCheck={false}
              autoComplete="off"
              onChange={(typed) => setValues({ ...values, [name]: typed.currentTarget.value })}
            />
          ))}
        </fieldset>
      )}
      <Button type="submit" size="xs" disabled={query.trim() === ''}>
        Run it
      </Button>
    </form>
  );
}

function Result({ trial }: { trial: QueryTrialInfo }) {
  if (trial.fault !== null)
    return (
      <p className="trouble" role="alert">
        {trial.fault}
      </p>
    );
  return (
    <section aria-label="What it gives">
      <h2 className="below">
        {trial.hasMore ? 'The first 100 rows' : counted(trial.rows.length, 'row')}{' '}
        <span className="quiet">in {trial.milliseconds.toFixed(1)} ms</span>
      </h2>
      <RowsTable
        sheet
        label="The rows of the query"
        columns={trial.columns}
        rows={trial.rows}
        note={(column) => <span className="quiet"> {trial.types[trial.columns.indexOf(column)]}</span>}
      />
      {trial.plan && <Plan plan={trial.plan} />}
    </section>
  );
}
