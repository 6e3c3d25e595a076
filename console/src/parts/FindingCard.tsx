import type { FindingInfo } from '../api/schema';
import { Go } from './Go';
import { capital } from './words';

/** One finding: what is wrong, what stands there, and what to do. */
export function FindingCard({ finding, withPlace }: { finding: FindingInfo; withPlace: boolean }) {
  return (
    <div className="finding" data-severity={finding.severity}>
      <p>
        <FindingName finding={finding} />
        {withPlace && (
          <>
            {', '}
            <Go to={{ name: 'findings', line: finding.line }}>
              line {finding.line}, column {finding.column}
            </Go>
          </>
        )}
        {': '}
        {finding.message}
      </p>
      {finding.expected !== null && (
        <p className="quiet">
          {finding.found !== null && (
            <>
              Found <span className="mono">{finding.found}</span>;{' '}
            </>
          )}
          expected <span className="mono">{finding.expected}</span>
        </p>
      )}
      <p>{finding.remedy}</p>
    </div>
  );
}

/** The severity and the code of a finding. */
export function FindingName({ finding }: { finding: { severity: string; code: string } }) {
  return (
    <strong>
      {capital(finding.severity)} {finding.code}
    </strong>
  );
}
