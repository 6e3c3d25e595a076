import { useQuery } from '@tanstack/react-query';
import { proofsQuery, reportQuery } from '../api/queries';
import type { FindingInfo, ProofReport } from '../api/schema';

/** What the latest sweep and the latest probe of an app file found, as findings of its lines. */
export function useProved(file: string): FindingInfo[] {
  const proofs = useQuery(proofsQuery);
  const latest = (means: string) =>
    proofs.data?.reports.find((report) => report.means === means && report.subject === file)?.number ?? null;
  return [...useReport(latest('sweep')), ...useReport(latest('probe'))];
}

function useReport(number: number | null): FindingInfo[] {
  const report = useQuery({ ...reportQuery(number ?? 0), enabled: number !== null });
  return number === null || report.data === undefined ? [] : atLines(report.data);
}

/** The findings of a report that have a place in the app file. */
export function atLines(report: ProofReport): FindingInfo[] {
  return report.findings
    .filter((finding) => finding.line > 0)
    .map((finding) => ({
      code: finding.code,
      severity: finding.severity,
      title: finding.title,
      file: finding.file,
      line: finding.line,
      column: finding.column,
      message: finding.count > 1 ? `${finding.message} Met ${finding.count.toLocaleString('en')} times.` : finding.message,
      remedy: finding.remedy,
      found: finding.found ?? null,
      expected: finding.expected ?? null,
      nearest: finding.nearest ?? null,
      page: finding.page,
    }));
}
