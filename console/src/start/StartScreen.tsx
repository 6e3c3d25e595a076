import { Button, Checkbox, SegmentedControl, TextInput } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { go } from '../address';
import { answered, api } from '../api/client';
import { siteQuery, workingQuery } from '../api/queries';
import type { SiteInfo, StartInfo, StartRequest } from '../api/schema';
import { Preview } from '../make/Preview';
import { set, useDeed } from '../make/work';
import { Empty } from '../parts/States';
import { counted } from '../parts/words';
import { SampleRows } from './SampleRows';

const engines = [
  { value: 'sqlite', label: 'SQLite' },
  { value: 'postgresql', label: 'PostgreSQL' },
  { value: 'mariadb', label: 'MariaDB' },
  { value: 'http', label: 'API' },
  { value: 'files', label: 'Folder' },
];

const hints: Record<string, { label: string; description: string; placeholder: string }> = {
  sqlite: { label: 'Database file', description: 'From the folder that Jexa was started in', placeholder: 'register.db' },
  files: { label: 'Folder of CSV or JSON files', description: 'From the folder that Jexa was started in', placeholder: 'tables' },
  http: {
    label: 'Base address',
    description: 'Its OpenAPI description is looked for there',
    placeholder: 'https://gauges.example/v1',
  },
};

/** The way to a first app file: where the records are, which of them get pages, the pages themselves, saved. */
export function StartScreen({ site }: { site: SiteInfo }) {
  const client = useQueryClient();
  const copy = useQuery(workingQuery);
  const deed = useDeed();
  const [asked, setAsked] = useState<StartRequest>({ engine: 'sqlite' });
  const [found, setFound] = useState<StartInfo | null>(null);
  const [chosen, setChosen] = useState<string[]>([]);
  const [shown, setShown] = useState<string | null>(null);
  const [title, setTitle] = useState<string | null>(null);
  const [at, setAt] = useState('/');
  const say = (part: Partial<StartRequest>) => {
    setAsked({ ...asked, ...part });
    setFound(null);
    look.reset();
  };

  const draft = useMutation({
    mutationFn: (tables: string[]) => answered(api.POST('/api/start/draft', { body: { ...asked, tables } })),
    onSuccess: ({ copy }) => {
      client.setQueryData(workingQuery.queryKey, copy);
      setAt('/');
    },
  });
  const look = useMutation({
    mutationFn: () => answered(api.POST('/api/start/look', { body: asked })),
    onSuccess: (info) => {
      setFound(info);
      const tables = info.tables.map((table) => table.name);
      setChosen(tables);
      setShown(tables[0] ?? null);
      if (tables.length > 0) draft.mutate(tables);
    },
  });
  const choose = (tables: string[]) => {
    setChosen(tables);
    if (tables.length > 0) draft.mutate(tables);
  };
  const pages = copy.data?.pages.length ?? 0;
  const isDrafted = found !== null && draft.isSuccess && copy.data?.changed === true;
  const name = title ?? nameIn(copy.data?.text ?? '');
  const save = () => {
    if (copy.data === undefined) return;
    const whole = (version: string) =>
      deed.mutate(
        { do: 'save', version },
        {
          onSuccess: () => {
            void client.invalidateQueries({ queryKey: siteQuery.queryKey });
            go({ name: 'pages', find: '' });
          },
        },
      );
    if (title === null || title === '') whole(copy.data.version);
    else deed.mutate({ do: 'change', changes: [set('/app', title)] }, { onSuccess: (after) => whole(after.version) });
  };
  return (
    <div className="start">
      <div className="start-steps">
        <h1>Make your first pages</h1>
        <form
          className="sheet"
          aria-label="Where the records are"
          onSubmit={(event) => {
            event.preventDefault();
            look.mutate();
          }}
        >
          <h2>1. Where are the records?</h2>
          <SegmentedControl
            size="xs"
            aria-label="Kind of source"
            value={asked.engine}
            data={engines}
            onChange={(engine) => {
              setAsked({ engine });
              setFound(null);
              look.reset();
            }}
          />
          <Connection asked={asked} say={say} error={look.error?.message ?? null} />
          <Button type="submit" size="xs" loading={look.isPending}>
            Look
          </Button>
          {found?.variable && (
            <p className="quiet">
              The password is kept in <span className="mono">{found.secretsFile}</span>, readable by you only. The app file has{' '}
              <span className="mono">{`\${${found.variable}}`}</span> instead; set that variable where other commands read the
              file.
            </p>
          )}
        </form>
        {found !== null && (
          <section className="sheet" aria-label="Which get pages">
            <h2>2. Which get pages?</h2>
            <p className="quiet">
              {counted(found.tables.length, 'table')}, {chosen.length} chosen.{' '}
              <Button size="compact-xs" variant="subtle" onClick={() => choose(found.tables.map((table) => table.name))}>
                All
              </Button>
              <Button size="compact-xs" variant="subtle" onClick={() => setChosen([])}>
                None
              </Button>
            </p>
            <ul className="bare tables">
              {found.tables.map((table) => (
                <li key={table.name}>
                  <Checkbox
                    size="xs"
                    checked={chosen.includes(table.name)}
                    label={table.name}
                    onChange={(event) =>
                      choose(
                        event.currentTarget.checked ? [...chosen, table.name] : chosen.filter((other) => other !== table.name),
                      )
                    }
                  />
                  <span className="quiet">
                    {table.aboutRows === null ? '' : `about ${counted(table.aboutRows, 'row')}, `}
                    {counted(table.columns.length, 'column')}
                    {table.kind === 'view' ? ', a view' : ''}
                  </span>
                  <Button
                    size="compact-xs"
                    variant="subtle"
                    aria-expanded={shown === table.name}
                    onClick={() => setShown(shown === table.name ? null : table.name)}
                  >
                    Rows<span className="unseen"> of {table.name}</span>
                  </Button>
                  {shown === table.name && <SampleRows asked={asked} table={table} />}
                </li>
              ))}
            </ul>
          </section>
        )}
        {isDrafted && (
          <section className="sheet" aria-label="Save">
            <h2>3. Save</h2>
            {draft.data.doubts.map((doubt) => (
              <p key={doubt} className="quiet">
                {doubt}
              </p>
            ))}
            <TextInput label="Name of the app" value={name} onChange={(event) => setTitle(event.currentTarget.value)} />
            <p className="quiet">
              {counted(pages, 'page')} go into <span className="mono">{site.file}</span>, a text that is yours to change.
            </p>
            {(deed.error ?? draft.error) && (
              <p className="trouble" role="alert">
                {(deed.error ?? draft.error)?.message}
              </p>
            )}
            <Button size="xs" loading={deed.isPending} onClick={save}>
              Save and serve
            </Button>
          </section>
        )}
        {draft.error !== null && !isDrafted && (
          <p className="trouble sheet" role="alert">
            {draft.error.message}
          </p>
        )}
      </div>
      {isDrafted && copy.data ? (
        <Preview site={site} copy={copy.data} page="" at={at} why={null} outlined={null} go={setAt} choose={() => undefined} />
      ) : (
        <Empty title={draft.isPending ? 'The pages are being drafted' : 'The pages will be here'}>
          <p>
            Lists that lead to records, records that lead on, and forms to change them: made from what the source says of itself.
          </p>
        </Empty>
      )}
    </div>
  );
}

type ConnectionProps = { asked: StartRequest; say: (part: Partial<StartRequest>) => void; error: string | null };

function Connection({ asked, say, error }: ConnectionProps) {
  const here = useQuery({ queryKey: ['start'], queryFn: () => answered(api.GET('/api/start')) });
  const hint = hints[asked.engine];
  const plain = { autoComplete: 'off', spellCheck: false, size: 'xs' } as const;
  if (hint !== undefined)
    return (
      <>
        <TextInput
          {...plain}
          {...hint}
          {...(asked.engine === 'sqlite' && { list: 'databases-here' })}
          value={asked.connection ?? ''}
          error={error}
          onChange={(event) => say({ connection: event.currentTarget.value })}
        />
        {asked.engine === 'sqlite' && (
          <datalist id="databases-here">
            {(here.data?.databases ?? []).map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        )}
        {asked.engine === 'http' && (
          <TextInput
            {...plain}
            label="Paths of its lists"
            description="If it has no description; with commas between"
            placeholder="/gauges"
            value={asked.lists?.join(', ') ?? ''}
            onChange={(event) =>
              say({
                lists: event.currentTarget.value === '' ? null : event.currentTarget.value.split(',').map((path) => path.trim()),
              })
            }
          />
        )}
      </>
    );
  return (
    <>
      <TextInput
        {...plain}
        label="Host"
        description="With a port if it is not the usual one"
        placeholder="127.0.0.1"
        value={asked.host ?? ''}
        error={error}
        onChange={(event) => say({ host: event.currentTarget.value })}
      />
      <div className="three">
        <TextInput
          {...plain}
          label="Database"
          value={asked.database ?? ''}
          onChange={(event) => say({ database: event.currentTarget.value })}
        />
        <TextInput
          {...plain}
          label="User"
          value={asked.user ?? ''}
          onChange={(event) => say({ user: event.currentTarget.value })}
        />
        <TextInput
          {...plain}
          type="password"
          label="Password"
          autoComplete="new-password"
          value={asked.password ?? ''}
          onChange={(event) => say({ password: event.currentTarget.value })}
        />
      </div>
    </>
  );
}

/** The app's name as the draft has it. */
function nameIn(text: string): string {
  const found = /^app: (.*)$/m.exec(text)?.[1] ?? '';
  return found.startsWith('"') ? (JSON.parse(found) as string) : found;
}
