import { expect, it } from 'vitest';
import { changeBetween, changeOfOthers } from './changeBetween';

it('finds the part in which two texts differ', () => {
  expect(changeBetween('same', 'same')).toBeNull();
  for (const [before, after] of [
    ['abc', 'abxc'],
    ['aaa', 'aa'],
    ['', 'new'],
    ['old', ''],
    ['one two', 'one 2 two'],
  ] as const) {
    const change = changeBetween(before, after);
    expect(change).not.toBeNull();
    if (change !== null) expect(before.slice(0, change.from) + change.insert + before.slice(change.to)).toBe(after);
  }
});

it('brings what others changed into what was typed here', () => {
  const made = (base: string, mine: string, theirs: string) => {
    const change = changeOfOthers(base, mine, theirs);
    return change === null ? mine : mine.slice(0, change.from) + change.insert + mine.slice(change.to);
  };
  expect(made('one two three', 'one two THREE!', '1 two three')).toBe('1 two THREE!');
  expect(made('one two three', 'ONE two three', 'one two 3')).toBe('ONE two 3');
  expect(made('one two', 'one two', 'one 2')).toBe('one 2');
  // Both changed the same part: what is typed here stands.
  expect(made('one two', 'one mine', 'one theirs')).toBe('one mine');
  expect(made('same', 'same', 'same')).toBe('same');
});
