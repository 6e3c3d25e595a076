import { useQuery } from '@tanstack/react-query';
import { proofsQuery } from '../api/queries';
import type { ProofSummary } from '../api/schema';
import { Go } from '../parts/Go';
import { Heads } from '../parts/Heads';
import { Loaded } from '../parts/Loaded';
import { Scroll } from '../parts/Scroll';
import { Empty } from '../parts/States';
import { dayAndTime } from '../parts/time';
import { counted } from '../parts/words';
import { BeginForms } from './BeginForms';
import { RunningProof } from './RunningProof';
import { found, seconds } from './words';

/** Proofs: begin one, see how far it is, read those that were made. */
export function ProofScreen() {
  const proofs = useQuery(proofsQuery);
  return (
    <>
      <div className="head">
        <div>
          <h1>Proof</h1>
          <p>Every link and every wrong ID, checked. Nothing is changed by it.</p>
        </div>
      </div>
      <Loaded query={proofs} what="the proofs" rows={8}>
        {(all) => (
          <>
            {all.running === null ? (
              <BeginForms canResume={all.reports.find((one) => one.means === 'sweep')?.gaps !== 0} />
            ) : (
              <RunningProof progress={all.running} />
            )}
            {all.reports.length === 0 ? (
              <Empty title="No proof was made yet">
                <p>Begin with a check: it takes a moment. The latest 50 reports are kept here.</p>
              </Empty>
            ) : (
              <History reports={all.reports} />
            )}
          </>
        )}
      </Loaded>
    </>
  );
}

function History({ reports }: { reports: ProofSummary[] }) {
  return (
    <section aria-labelledby="made">
      <h2 id="made">Made before</h2>
      <Scroll sheet label="Reports, the latest first">
        <table className="plain stack">
          <Heads names={['Report', 'Of', 'Begun', 'Took', 'Found', 'Not seen']} />
          <tbody>
            {reports.map((one) => (
              <tr key={one.number}>
                <td>
                  <Go to={{ name: 'report', number: one.number }}>
                    {one.means} {one.number}
                  </Go>
                </td>
                <td data-label="Of" className="mono">
                  {one.subject}
                </td>
                <td data-label="Begun">{dayAndTime(one.started)}</td>
                <td data-label="Took">{seconds(one.seconds)}</td>
                <td data-label="Found">
                  <span className={one.errors + one.warnings > 0 ? 'wrong' : undefined}>{found(one)}</span>
                </td>
                <td data-label="Not seen">{one.gaps === 0 ? '' : counted(one.gaps, 'part')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </section>
  );
}
