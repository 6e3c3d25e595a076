import type { ProofProgress, ProofSummary } from '../api/schema';
import { counted } from '../parts/words';

/** What each proof does, for people. */
export const meanings: Record<string, string> = {
  check: 'The app file, and what the sources say they hold.',
  sweep: 'All records: every link, reference, file and value.',
  probe: 'What this service answers to right and wrong IDs, on every page.',
  audit: 'Any web application: from a list, does each link lead to its record, and what do wrong IDs get?',
};

/** What a proof has found, in a few words. */
export function found(report: Pick<ProofSummary, 'errors' | 'warnings' | 'hints'>): string {
  const parts = [
    report.errors > 0 ? counted(report.errors, 'error') : '',
    report.warnings > 0 ? counted(report.warnings, 'warning') : '',
    report.hints > 0 ? counted(report.hints, 'hint') : '',
  ].filter((part) => part !== '');
  return parts.length === 0 ? 'no findings' : parts.join(', ');
}

/** Seconds for people: `0.8 s`, `12 s`, `3 min`, `2 h`. */
export function seconds(number: number): string {
  if (number < 10) return `${number.toFixed(1)} s`;
  if (number < 120) return `${Math.round(number)} s`;
  return number < 7200 ? `${Math.round(number / 60)} min` : `${Math.round(number / 3600)} h`;
}

/** About how long a running proof will take; null as long as nobody can say. */
export function left(progress: Pick<ProofProgress, 'done' | 'most' | 'seconds'>): number | null {
  if (progress.most === null || progress.done === 0 || progress.seconds < 1) return null;
  return Math.max(0, (progress.seconds / progress.done) * (progress.most - progress.done));
}

/** A figure of a report: `1 record`, `12 records looked for`. The noun is the first word with an s at its end. */
export function figure(count: number, name: string): string {
  return `${count.toLocaleString('en')} ${count === 1 ? name.replace(/s(?= |$)/, '') : name}`;
}
