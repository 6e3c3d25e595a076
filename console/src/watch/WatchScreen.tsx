import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../api/client';
import type { SlowQueryInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Heads } from '../parts/Heads';
import { OutcomeMark } from '../parts/OutcomeMark';
import { Plan } from '../parts/Plan';
import { Scroll } from '../parts/Scroll';
import { Empty } from '../parts/States';
import { duration } from '../parts/time';
import { VisitTable } from '../parts/VisitTable';
import { counted } from '../parts/words';
import { OutcomeChart } from './OutcomeChart';
import { useWatch, type Watched } from './useWatch';

/** The latest visits that are shown: more than that nobody reads as they pass. */
const mostShown = 60;

/** Visits as they happen: outcomes over time, IDs that failed and where from, how long pages take, slow queries. */
export function WatchScreen() {
  const [isPaused, setPaused] = useState(false);
  const watched = useWatch(isPaused);
  return (
    <>
      <div className="head">
        <div>
          <h1>Watch</h1>
          <p role="status">
            {isPaused ? 'Held still.' : watched.isLive ? 'Visits come in as they happen.' : 'Waiting for the service…'}
          </p>
        </div>
        <Button size="xs" variant="default" aria-pressed={isPaused} onClick={() => setPaused(!isPaused)}>
          {isPaused ? 'Go on' : 'Hold still'}
        </Button>
      </div>
      <div className="sheet">
        <OutcomeChart seconds={watched.seconds} />
      </div>
      <div className="watch">
        <Failed watched={watched} />
        <Times watched={watched} />
        <Slow watched={watched} />
        <Live watched={watched} />
      </div>
    </>
  );
}

function Failed({ watched }: { watched: Watched }) {
  const failed = watched.last?.failed ?? [];
  return (
    <section>
      <h2 className="below">IDs and addresses that failed, by page and by where the visitor came from</h2>
      {failed.length === 0 ? (
        <Empty title="No address has failed yet" />
      ) : (
        <Scroll sheet label="IDs and addresses that failed, the most frequent first">
          <table className="plain">
            <Heads names={['Visits', 'Outcome', 'Page', 'By a link on', 'Addresses', 'Last']} numbers={['Visits']} />
            <tbody>
              {failed.map((one) => (
                <tr key={`${one.page} ${one.outcome} ${one.from}`}>
                  <td className="number">{one.visits.toLocaleString('en')}</td>
                  <td>
                    <OutcomeMark outcome={one.outcome} />
                  </td>
                  <td>{one.page === '' ? <span className="quiet">none</span> : one.page}</td>
                  <td className="mono">{one.from === '' ? <span className="quiet">not told</span> : one.from}</td>
                  <td className="mono">
                    {one.targets.map((target) => (
                      <div key={target}>{target}</div>
                    ))}
                  </td>
                  <td>
                    <Go to={{ name: 'visit', number: one.last }}>{one.last}</Go>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scroll>
      )}
    </section>
  );
}

function Times({ watched }: { watched: Watched }) {
  const pages = watched.last?.pages ?? [];
  if (pages.length === 0) return null;
  return (
    <section>
      <h2 className="below">How long pages take</h2>
      <Scroll sheet label="How long pages take, the slowest first">
        <table className="plain">
          <Heads names={['Page', 'Visits', 'Half within', '95 % within']} numbers={['Visits', 'Half within', '95 % within']} />
          <tbody>
            {pages.map((page) => (
              <tr key={page.page}>
                <td>{page.page}</td>
                <td className="number">{page.visits.toLocaleString('en')}</td>
                <td className="number">{duration(page.median)}</td>
                <td className="number">{duration(page.most)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </section>
  );
}

function Slow({ watched }: { watched: Watched }) {
  const slow = watched.last?.slow ?? [];
  if (slow.length === 0) return null;
  return (
    <section>
      <h2 className="below">Slow queries</h2>
      <ul className="bare sheet slow">
        {slow.map((query) => (
          <li key={query.number}>
            <SlowOne query={query} />
            <Go to={{ name: 'visit', number: query.visit }}>Visit {query.visit}</Go>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A slow query. Its plan is asked for when somebody looks. */
function SlowOne({ query }: { query: SlowQueryInfo }) {
  const [isOpen, setOpen] = useState(false);
  const plan = useQuery({
    queryKey: ['slow-plan', query.number],
    queryFn: () => answered(api.GET('/api/slow-queries/{number}/plan', { params: { path: { number: query.number } } })),
    enabled: isOpen,
    retry: false,
  });
  return (
    <details onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>
        {duration(query.microseconds)}, {counted(query.rows, 'row')}, page {query.page === '' ? 'none' : query.page}
      </summary>
      <pre className="query mono">{query.text}</pre>
      {plan.error !== null && <p className="trouble">{plan.error.message}</p>}
      {plan.data && <Plan plan={plan.data} />}
    </details>
  );
}

function Live({ watched }: { watched: Watched }) {
  return (
    <section>
      <h2 className="below">
        Visits{' '}
        {watched.skipped > 0 && <span className="quiet">({watched.skipped.toLocaleString('en')} more were not shown)</span>}
      </h2>
      <VisitTable visits={watched.visits.slice(0, mostShown)} label="Visits as they happen, newest first" />
    </section>
  );
}
