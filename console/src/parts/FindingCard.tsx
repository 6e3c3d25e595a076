import type { FindingInfo } from '../api/schema';
import { Go } from './Go';

/** One finding: what is wrong, what stands there, and what to do. */
export function FindingCard({ finding, withPlace }: { finding: FindingInfo; withPlace: boolean }) {
  return (
    <div className="finding" data-severity={finding.severity}>
      <p>
        <strong>
          {finding.severity.charAt(0).toUpperCase() + finding.severity.slice(1)} {finding.code}
        </strong>
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
