import type { FindingInfo } from '../api/schema';

/** The findings of each line that has some. */
export function byLine(findings: FindingInfo[]): Map<number, FindingInfo[]> {
  const lines = new Map<number, FindingInfo[]>();
  for (const finding of findings) lines.set(finding.line, [...(lines.get(finding.line) ?? []), finding]);
  return lines;
}

/**
 * Cuts a line at what a finding is about: what stands there if it is the finding's word, else one word, else the rest.
 * Columns count from 1, in UTF-16 units, as the service's do.
 */
export function splitAt(line: string, column: number, found: string | null): [string, string, string] {
  const start = Math.min(Math.max(column - 1, 0), line.length);
  const rest = line.slice(start);
  const length =
    found !== null && found !== '' && rest.startsWith(found)
      ? found.length
      : (/^\S+?(?=[,:}\]]|\s|$)/.exec(rest)?.[0].length ?? rest.length);
  return [line.slice(0, start), rest.slice(0, length), rest.slice(length)];
}
