/** Things by what they have in common, in the order in which they come. */
export function grouped<T>(all: readonly T[], by: (one: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const one of all) {
    const key = by(one);
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [one]);
    else group.push(one);
  }
  return groups;
}
