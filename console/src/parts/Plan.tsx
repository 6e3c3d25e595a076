import type { QueryPlanInfo } from '../api/schema';

/** How a source runs a query, in its own words. */
export function Plan({ plan }: { plan: QueryPlanInfo }) {
  return plan.trouble === null ? (
    <figure className="plan">
      <figcaption className="quiet">How the source runs it</figcaption>
      <pre className="query mono">{plan.lines.join('\n')}</pre>
    </figure>
  ) : (
    <p className="quiet">No plan: {plan.trouble}</p>
  );
}
