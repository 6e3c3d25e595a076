import type { ProofFinding } from '../api/schema';
import { FindingName } from '../parts/FindingCard';
import { Go } from '../parts/Go';

/** A finding of a report: its place, what was met, and how to find all of it. */
export function ReportFinding({ finding, means }: { finding: ProofFinding; means: string }) {
  return (
    <div className="finding" data-severity={finding.severity}>
      <p>
        <FindingName finding={finding} />
        {means !== 'audit' && finding.line > 0 && (
          <>
            {', '}
            <Go to={{ name: 'findings', line: finding.line }}>line {finding.line}</Go>
          </>
        )}
        : {finding.message}
        {finding.count > 1 && <> Met {finding.count.toLocaleString('en')} times.</>}
        {finding.sure !== 'certain' && ` It is ${finding.sure}, not certain.`}
      </p>
      <p>{finding.remedy}</p>
      {finding.examples.length > 0 && (
        <ul>
          {finding.examples.map((example) => (
            <li key={`${example.key} ${example.address} ${example.says}`}>
              {example.key !== '' && (
                <>
                  <span className="mono">{example.key}</span>:{' '}
                </>
              )}
              {example.address !== null && <Address address={example.address} isOwn={means !== 'audit'} />} {example.says}
              {example.picture && (
                <img className="drawn" src={example.picture} alt={`${example.address ?? 'The page'}, as a browser drew it`} />
              )}
              {example.request !== null && <pre className="query mono">{example.request}</pre>}
            </li>
          ))}
        </ul>
      )}
      {finding.query !== null && (
        <details>
          <summary>The query that finds them</summary>
          <pre className="query mono">{finding.query}</pre>
        </details>
      )}
    </div>
  );
}

/** An address; one of this app leads on to a trial of it. */
function Address({ address, isOwn }: { address: string; isOwn: boolean }) {
  return isOwn && address.startsWith('/') ? (
    <Go className="mono" to={{ name: 'try', address, outcome: null }}>
      {address}
    </Go>
  ) : (
    <span className="mono">{address}</span>
  );
}
