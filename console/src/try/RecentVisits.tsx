import { useQuery } from '@tanstack/react-query';
import { visitsQuery } from '../api/queries';
import type { VisitInfo, VisitList } from '../api/schema';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { OutcomeMark } from '../parts/OutcomeMark';
import { Scroll } from '../parts/Scroll';
import { Empty } from '../parts/States';
import { clock, duration } from '../parts/time';

/** The latest visits, all or those of one outcome: each leads to its trace. */
export function RecentVisits({ outcome }: { outcome: string | null }) {
  const visits = useQuery(visitsQuery(outcome));
  return (
    <section aria-labelledby="recent-title">
      <div className="head">
        <h2 id="recent-title">Recent visits</h2>
        {visits.data && visits.data.kept > 0 && <OutcomeFilter list={visits.data} outcome={outcome} />}
      </div>
      <Loaded query={visits} what="the visits" rows={6}>
        {(list) => (list.visits.length > 0 ? <VisitTable visits={list.visits} /> : <NoVisits outcome={outcome} />)}
      </Loaded>
    </section>
  );
}

function OutcomeFilter({ list, outcome }: { list: VisitList; outcome: string | null }) {
  const absent = outcome !== null && !list.outcomes.some((count) => count.outcome === outcome);
  const counts = absent ? [...list.outcomes, { outcome, visits: 0 }] : list.outcomes;
  return (
    <nav className="filters" aria-label="Visits by outcome">
      <Go to={{ name: 'try', address: null, outcome: null }} aria-current={outcome === null}>
        all {list.kept}
      </Go>
      {counts.map((count) => (
        <Go
          key={count.outcome}
          to={{ name: 'try', address: null, outcome: count.outcome }}
          aria-current={outcome === count.outcome}
        >
          <OutcomeMark outcome={count.outcome} /> {count.visits}
        </Go>
      ))}
    </nav>
  );
}

function NoVisits({ outcome }: { outcome: string | null }) {
  return outcome === null ? (
    <Empty title="Nobody has visited yet">
      <p>Open a page of the app, or try an address above: visits are listed here as they are made.</p>
    </Empty>
  ) : (
    <Empty title={`No visit ended ${outcome}`}>
      <p>
        None of the visits that are kept. <Go to={{ name: 'try', address: null, outcome: null }}>Show all of them</Go>
      </p>
    </Empty>
  );
}

function VisitTable({ visits }: { visits: VisitInfo[] }) {
  return (
    <Scroll sheet label="Visits, newest first">
      <table className="plain stack">
        <thead>
          <tr>
            <th scope="col">Visit</th>
            <th scope="col">Time</th>
            <th scope="col">Address</th>
            <th scope="col">Page</th>
            <th scope="col">Outcome</th>
            <th scope="col" className="number">
              Status
            </th>
            <th scope="col" className="number">
              Took
            </th>
          </tr>
        </thead>
        <tbody>
          {visits.map((visit) => (
            <tr key={visit.number}>
              <td>
                <Go to={{ name: 'visit', number: visit.number }}>{visit.number}</Go>
              </td>
              <td data-label="Time">{clock(visit.at)}</td>
              <td data-label="Address" className="mono">
                {visit.method === 'GET' ? '' : `${visit.method} `}
                {visit.target}
              </td>
              <td data-label="Page">{visit.page ?? <span className="quiet">none</span>}</td>
              <td data-label="Outcome">
                <OutcomeMark outcome={visit.outcome} />
              </td>
              <td data-label="Status" className="number">
                {visit.status === 0 ? '' : visit.status}
              </td>
              <td data-label="Took" className="number">
                {duration(visit.microseconds)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scroll>
  );
}
