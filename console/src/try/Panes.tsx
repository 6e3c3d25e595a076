import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { visitQuery, visitsQuery } from '../api/queries';
import type { SiteInfo, TraceInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { OutcomeMark } from '../parts/OutcomeMark';
import { TraceSteps } from './TraceSteps';
import { frameUrl } from './target';

type Props = {
  site: SiteInfo;
  trace: TraceInfo;
  /** What the frame shows. */
  path: string;
  /** Told where the visitor in the frame has gone. */
  follow: (target: string) => void;
};

/** How often the log is asked for the visit of the frame, and the pause in between, in milliseconds. */
const lookups = 20;
const pause = 100;

/**
 * A trace beside the page. The frame may run no script and is of another origin, so that nobody can look into it; but each
 * page it loads is a visit, and the newest visit made by a frame is what it shows.
 */
export function Panes({ site, trace, path, follow }: Props) {
  const client = useQueryClient();
  const [clicked, setClicked] = useState<TraceInfo | null>(null);
  const loads = useRef(0);
  const known = useRef(0);
  const shown = clicked ?? trace;

  /** A visit is logged after its page was sent: a busy service may do so after the frame has loaded it. */
  const newestFramed = async () => {
    for (let tries = 0; tries < lookups; tries++) {
      const latest = await client.fetchQuery({ ...visitsQuery(null), staleTime: 0 }).catch(() => null);
      const framed = latest?.visits.find((visit) => visit.framed && visit.number > known.current);
      if (framed !== undefined || latest === null) return framed;
      await new Promise((resolve) => setTimeout(resolve, pause));
    }
    return undefined;
  };

  const loaded = async () => {
    loads.current += 1;
    const first = loads.current === 1;
    const framed = await newestFramed();
    if (framed === undefined) return;
    known.current = framed.number;
    // The first page is the one that was asked for, or what a redirect made of it: its trace is there already.
    if (first) return;
    setClicked(await client.fetchQuery(visitQuery(framed.number)));
    follow(framed.target);
  };

  return (
    <div className="panes">
      <section className="sheet" aria-labelledby="trace-title">
        <div className="pane-head">
          <h2 id="trace-title">
            {shown.number === 0 ? 'The visit' : `Visit ${shown.number}`}: <OutcomeMark outcome={shown.outcome} />
          </h2>
          <span className="mono quiet">
            {shown.method} {shown.target}
          </span>
          <a
            download="trace.json"
            href={`data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(shown, null, 2))}`}
          >
            Save the trace
          </a>
        </div>
        <TraceSteps trace={shown} />
      </section>
      <section className="sheet" aria-labelledby="frame-title">
        <div className="pane-head">
          <h2 id="frame-title">What the visitor sees</h2>
          <span className="quiet">
            {shown.location !== null ? (
              <>
                after the redirect to <Go to={{ name: 'try', address: shown.location, outcome: null }}>{shown.location}</Go>
              </>
            ) : (
              <a href={frameUrl(site.pagesUrl, shown.target)}>open by itself</a>
            )}
          </span>
        </div>
        {trace.method === 'GET' || trace.method === 'HEAD' ? (
          <iframe
            title="The page as its visitor sees it"
            src={frameUrl(site.pagesUrl, path)}
            // Its own origin it must keep, or it could not load its own style sheet; scripts stay off.
            sandbox="allow-same-origin"
            onLoad={() => void loaded()}
          />
        ) : (
          <p className="says">A visit with the method {trace.method} is not made again here.</p>
        )}
      </section>
    </div>
  );
}
