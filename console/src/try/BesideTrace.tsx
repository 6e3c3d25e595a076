import { useQuery } from '@tanstack/react-query';
import { traceQuery } from '../api/queries';
import type { TraceInfo } from '../api/schema';
import { Loaded } from '../parts/Loaded';
import { TraceSteps } from './TraceSteps';

/** Two addresses side by side: the first step in which they differ is named. */
export function BesideTrace({ state, one, other }: { state: string; one: string; other: string }) {
  const first = useQuery(traceQuery(state, one));
  const second = useQuery(traceQuery(state, other));
  return (
    <Loaded query={first} what={`the trace of ${one}`}>
      {(one) => (
        <Loaded query={second} what={`the trace of ${other}`}>
          {(other) => (
            <>
              <p role="status">{differenceOf(one, other)}</p>
              <div className="panes">
                {[one, other].map((trace, index) => (
                  <section className="sheet" key={index === 0 ? 'one' : 'other'} aria-label={trace.target}>
                    <h2 className="pane-head mono">{trace.target}</h2>
                    <TraceSteps trace={trace} />
                  </section>
                ))}
              </div>
            </>
          )}
        </Loaded>
      )}
    </Loaded>
  );
}

/** The first step in which two visits differ, in words. */
export function differenceOf(one: TraceInfo, other: TraceInfo): string {
  if (one.page !== other.page) return `They differ at the first step: ${pageOf(one)} and ${pageOf(other)}.`;
  const texts = (trace: TraceInfo) =>
    trace.parameters.map((parameter) => `${parameter.name} ${parameter.value ?? 'cannot be read'}`);
  const [ids, others] = [texts(one).join(', '), texts(other).join(', ')];
  const rows = (trace: TraceInfo) => trace.queries.map((query) => query.rowCount).join(', ');
  const isSameEnd = one.outcome === other.outcome && one.status === other.status;
  const end = isSameEnd ? '' : ` They come to ${one.outcome ?? 'left'} and ${other.outcome ?? 'left'}.`;
  if (ids !== others) return `They differ in what is read: ${ids || 'nothing'}; ${others || 'nothing'}.${end}`;
  if (rows(one) !== rows(other))
    return `They differ in what is loaded: ${rows(one) || 'no'} and ${rows(other) || 'no'} rows.${end}`;
  return isSameEnd
    ? 'They come to the same.'
    : `They differ in the outcome: ${one.outcome ?? 'left'} and ${other.outcome ?? 'left'}.`;
}

const pageOf = (trace: TraceInfo) => (trace.page === null ? 'no page' : `page ${trace.page}`);
