import { useQuery } from '@tanstack/react-query';
import { go } from '../address';
import { visitQuery } from '../api/queries';
import type { SiteInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { clock } from '../parts/time';
import { Panes } from './Panes';

/** One visit that was made: its trace beside the page as it is now. */
export function VisitScreen({ site, number }: { site: SiteInfo; number: number }) {
  const visit = useQuery(visitQuery(number));
  return (
    <>
      <div className="head">
        <div>
          <h1>Visit {number}</h1>
          <p>{visit.data ? `At ${clock(visit.data.at)}, from ${visit.data.visitor ?? 'an unknown address'}.` : ' '}</p>
        </div>
        <Go to={{ name: 'try', address: null, outcome: visit.data?.outcome ?? null }}>
          {visit.data?.outcome ? `More visits that ended ${visit.data.outcome}` : 'Recent visits'}
        </Go>
      </div>
      <Loaded query={visit} what="the visit">
        {(trace) => (
          <Panes
            key={number}
            site={site}
            trace={trace}
            path={trace.target}
            follow={(target) => go({ name: 'try', address: target, outcome: null })}
          />
        )}
      </Loaded>
    </>
  );
}
