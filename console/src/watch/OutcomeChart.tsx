import type { SecondInfo } from '../api/schema';
import { kindOf, type OutcomeKind } from '../parts/outcome';

type Props = { seconds: Map<number, SecondInfo> };

const kept = 300;
const step = 5;
const width = 900;
const height = 120;
const kinds: OutcomeKind[] = ['good', 'visitor', 'trouble'];
const names: Record<OutcomeKind, string> = { good: 'went well', visitor: 'failed by the address', trouble: 'failed by the app' };

/** Outcomes of the last five minutes, five seconds a bar. */
export function OutcomeChart({ seconds }: Props) {
  const newest = Math.max(Math.floor(Date.now() / 1000), ...seconds.keys());
  const end = Math.ceil((newest + 1) / step) * step;
  const bars = Array.from({ length: kept / step }, (_, index) => {
    const from = end - kept + index * step;
    const counts: Record<OutcomeKind, number> = { good: 0, visitor: 0, trouble: 0 };
    for (let second = from; second < from + step; second++)
      for (const count of seconds.get(second)?.outcomes ?? []) counts[kindOf(count.outcome)] += count.visits;
    return { from, counts, sum: counts.good + counts.visitor + counts.trouble };
  });
  const most = Math.max(1, ...bars.map((bar) => bar.sum));
  const totals = kinds.map((kind) => ({ kind, sum: bars.reduce((all, bar) => all + bar.counts[kind], 0) }));
  const wide = width / bars.length;
  return (
    <figure className="chart">
      <svg viewBox={`0 0 ${width} ${height + 18}`} role="img" aria-label={`Visits of the last five minutes: ${told(totals)}`}>
        <line x1="0" y1={height} x2={width} y2={height} stroke="var(--line)" />
        <text x="2" y="11">
          {(most / step).toFixed(most < step * 10 ? 1 : 0)} a second
        </text>
        {bars.map((bar, index) => {
          let top = height;
          return (
            <g key={bar.from}>
              {kinds.map((kind) => {
                const tall = (bar.counts[kind] / most) * (height - 16);
                top -= tall;
                return tall > 0 ? (
                  <rect key={kind} x={index * wide + 1} y={top} width={wide - 2} height={tall} fill={`var(--${kind})`} />
                ) : null;
              })}
              {index % 12 === 0 && (
                <text x={index * wide} y={height + 14}>
                  {new Date(bar.from * 1000).toLocaleTimeString('en-GB')}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <figcaption className="quiet">
        {totals.map(({ kind, sum }) => (
          <span key={kind} className="outcome" data-kind={kind}>
            {sum.toLocaleString('en')} {names[kind]}
          </span>
        ))}
      </figcaption>
    </figure>
  );
}

const told = (totals: { kind: OutcomeKind; sum: number }[]) => totals.map(({ kind, sum }) => `${sum} ${names[kind]}`).join(', ');
