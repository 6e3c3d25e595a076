import { describe, expect, it } from 'vitest';
import type { FindingInfo } from '../api/schema';
import { byLine, splitAt } from './lines';

const finding = (code: string, line: number) => ({ code, line }) as FindingInfo;

describe('Findings in a text', () => {
  it('stand at their lines, in their order', () => {
    const lines = byLine([finding('A', 3), finding('B', 1), finding('C', 3)]);
    expect([...lines.keys()]).toEqual([3, 1]);
    expect(lines.get(3)?.map((each) => each.code)).toEqual(['A', 'C']);
  });

  it.each([
    ['  order: [nmae]', 11, 'nmae', ['  order: [', 'nmae', ']']],
    ['  order: [nmae]', 11, null, ['  order: [', 'nmae', ']']],
    ['  title: "{nmae}"', 3, null, ['  ', 'title', ': "{nmae}"']],
    ['app: Løkke 🌉 x', 12, 'x', ['app: Løkke ', '🌉', ' x']],
    ['short', 40, 'x', ['short', '', '']],
    ['short', 0, 'sh', ['', 'sh', 'ort']],
    ['', 1, null, ['', '', '']],
  ])('cut %j at column %i', (line, column, found, parts) => {
    expect(splitAt(line, column, found)).toEqual(parts);
  });
});
