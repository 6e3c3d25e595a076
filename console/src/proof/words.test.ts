import { describe, expect, it } from 'vitest';
import { figure, found, left, seconds } from './words';

describe('words of proofs', () => {
  it('tells what was found, and that nothing was', () => {
    expect(found({ errors: 0, warnings: 0, hints: 0 })).toBe('no findings');
    expect(found({ errors: 1, warnings: 2, hints: 0 })).toBe('1 error, 2 warnings');
  });

  it('counts one as one', () => {
    expect([figure(1, 'windows of the list'), figure(1, 'wrong IDs'), figure(2000, 'records')]).toEqual([
      '1 window of the list',
      '1 wrong ID',
      '2,000 records',
    ]);
  });

  it('writes times in the unit that people would use', () => {
    expect([0.84, 12.4, 119, 180, 7300].map(seconds)).toEqual(['0.8 s', '12 s', '119 s', '3 min', '2 h']);
  });

  it('estimates only when there is something to estimate from', () => {
    expect(left({ done: 0, most: 100, seconds: 5 })).toBeNull();
    expect(left({ done: 10, most: null, seconds: 5 })).toBeNull();
    expect(left({ done: 10, most: 100, seconds: 0.2 })).toBeNull();
    expect(left({ done: 25, most: 100, seconds: 5 })).toBe(15);
    expect(left({ done: 120, most: 100, seconds: 5 })).toBe(0);
  });
});
