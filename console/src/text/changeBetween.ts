/** The one part in which two texts differ; null if they are the same. */
export function changeBetween(before: string, after: string): { from: number; to: number; insert: string } | null {
  if (before === after) return null;
  const most = Math.min(before.length, after.length);
  let start = 0;
  while (start < most && before[start] === after[start]) start++;
  let end = 0;
  while (end < most - start && before[before.length - 1 - end] === after[after.length - 1 - end]) end++;
  return { from: start, to: before.length - end, insert: after.slice(start, after.length - end) };
}

/**
 * What others have changed of a text, as a change of what it has become here meanwhile. Null if they changed nothing, or the same
 * part: what is typed here then stands.
 */
export function changeOfOthers(base: string, mine: string, theirs: string): { from: number; to: number; insert: string } | null {
  const [own, other] = [changeBetween(base, mine), changeBetween(base, theirs)];
  if (other === null || own === null) return other;
  if (other.to <= own.from && other.from < own.from) return other;
  if (other.from < own.to) return null;
  const shift = own.insert.length - (own.to - own.from);
  return { from: other.from + shift, to: other.to + shift, insert: other.insert };
}
