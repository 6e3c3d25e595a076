import { Button } from '@mantine/core';
import { useMutation, useQuery } from '@tanstack/react-query';
import { answered, api } from '../api/client';
import { reportQuery } from '../api/queries';
import type { ProofChange, ProofReport } from '../api/schema';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { Empty } from '../parts/States';
import { dayAndTime } from '../parts/time';
import { capital } from '../parts/words';
import { ReportBoard } from './ReportBoard';
import { ReportFinding } from './ReportFinding';
import { figure, found, seconds } from './words';

const forms = [
  ['html', 'HTML'],
  ['md', 'Markdown'],
  ['json', 'JSON'],
  ['sarif', 'SARIF'],
  ['xml', 'JUnit XML'],
] as const;

/** One report: what was found, what was tried, how much was seen, and what was not. */
export function ReportScreen({ number }: { number: number }) {
  const report = useQuery(reportQuery(number));
  return (
    <>
      {report.data === undefined && <h1>Report {number}</h1>}
      <Loaded query={report} what="the report" rows={10}>
        {(read) => <Report number={number} report={read} />}
      </Loaded>
    </>
  );
}

function Report({ number, report }: { number: number; report: ProofReport }) {
  const count = (severity: string) => report.findings.filter((one) => one.severity === severity).length;
  const missed = report.notSeen.filter((gap) => !gap.isChosen).length;
  return (
    <>
      <div className="head">
        <div>
          <h1>
            {capital(report.means)} {number}:{' '}
            {found({ errors: count('error'), warnings: count('warning'), hints: count('hint') })}
          </h1>
          <p>
            Of <span className="mono">{report.subject}</span>, {dayAndTime(report.started)}, {seconds(report.seconds)}.
            {missed > 0 && ' Not everything was seen.'} <Go to={{ name: 'proofs' }}>All proofs</Go>
          </p>
        </div>
        <Downloads number={number} />
      </div>
      {report.seen.length > 0 && <p>Seen: {report.seen.map((seen) => figure(seen.count, seen.name)).join(', ')}.</p>}
      {report.change && <Change change={report.change} />}
      {report.findings.length === 0 ? (
        <Empty title={missed > 0 ? 'Nothing was found in what was seen' : 'Nothing was found'} />
      ) : (
        <section aria-label="Findings">
          {report.findings.map((finding) => (
            <ReportFinding key={`${finding.code} ${finding.about}`} finding={finding} means={report.means} />
          ))}
        </section>
      )}
      {report.board && <ReportBoard board={report.board} />}
      {report.notSeen.length > 0 && (
        <section aria-labelledby="not-seen">
          <h2 id="not-seen">Not seen</h2>
          <ul>
            {report.notSeen.map((gap) => (
              <li key={`${gap.part} ${gap.why}`}>
                <strong>{gap.part}</strong>: {gap.why}
                {gap.isChosen && ' (as asked for)'}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

/** How the report compares with the one before it. */
function Change({ change }: { change: ProofChange }) {
  return (
    <p>
      Since the one before, {dayAndTime(change.since)}: {change.new} new, {change.known} known, {change.gone.length} gone
      {change.gone.length > 0 && ` (${change.gone.map((finding) => `${finding.code} ${finding.about}`).join('; ')})`}.
    </p>
  );
}

function Downloads({ number }: { number: number }) {
  const load = useMutation({
    mutationFn: async (form: string) => {
      const blob = await answered(
        api.GET('/api/proofs/{number}/file', {
          params: { path: { number }, query: { form } },
          parseAs: 'blob',
        }),
      );
      const address = URL.createObjectURL(blob as unknown as Blob);
      const link = document.createElement('a');
      link.href = address;
      link.download = `proof-${number}.${form}`;
      link.click();
      URL.revokeObjectURL(address);
    },
  });
  return (
    <div className="line">
      <p className="quiet">As a file</p>
      {forms.map(([form, words]) => (
        <Button key={form} size="compact-xs" variant="default" onClick={() => load.mutate(form)}>
          {words}
        </Button>
      ))}
      {load.error !== null && (
        <p className="trouble" role="alert">
          {load.error.message}
        </p>
      )}
    </div>
  );
}
