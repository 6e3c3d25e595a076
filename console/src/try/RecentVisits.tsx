import { useQuery } from '@tanstack/react-query';
import { visitsQuery } from '../api/queries';
import type { VisitList } from '../api/schema';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { OutcomeMark } from '../parts/OutcomeMark';
import { Empty } from '../parts/States';
import { VisitTable } from '../parts/VisitTable';

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
        {(list) =>
          list.visits.length > 0 ? (
            <VisitTable visits={list.visits} label="Visits, newest first" />
          ) : (
            <NoVisits outcome={outcome} />
          )
        }
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
