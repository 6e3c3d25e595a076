import { describe, expect, it } from 'vitest';
import { kindOf } from './outcome';
import { duration } from './time';
import { counted } from './words';

describe('Words and numbers', () => {
  it.each([
    [0.4, '0.4 µs'],
    [83.2, '83 µs'],
    [9_999, '9999 µs'],
    [12_340, '12.3 ms'],
    [1_250_000, '1.25 s'],
  ])('%d microseconds are %s', (microseconds, text) => {
    expect(duration(microseconds)).toBe(text);
  });

  it('have the noun in its number', () => {
    expect(counted(1, 'finding')).toBe('1 finding');
    expect(counted(0, 'finding')).toBe('0 findings');
    expect(counted(1204, 'bridge')).toBe('1,204 bridges');
    expect(counted(2, 'page does', 'pages do')).toBe('2 pages do');
  });

  it.each([
    ['found', 'good'],
    ['not-canonical', 'good'],
    ['saved', 'good'],
    ['moved', 'good'],
    ['hidden', 'visitor'],
    ['ambiguous', 'trouble'],
    ['a word of tomorrow', 'visitor'],
    [null, 'visitor'],
  ])('outcome %s is %s', (outcome, kind) => {
    expect(kindOf(outcome)).toBe(kind);
  });
});
