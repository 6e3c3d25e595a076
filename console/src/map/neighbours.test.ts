import { describe, expect, it } from 'vitest';
import type { PageInfo, PageLinkInfo } from '../api/schema';
import { pageBoxes, recordBoxes } from './boxes';
import { mostBoxes, neighboursOf } from './neighbours';

const link = (page: string): PageLinkInfo => ({
  page,
  text: page,
  column: null,
  reason: 'written',
  passes: [{ parameter: 'id', field: 'key' }],
});

/** Pages by the names of those they lead to. */
function app(links: Record<string, string[]>, record = (name: string) => name): PageInfo[] {
  return Object.entries(links).map(([name, to]) => ({
    name,
    record: record(name),
    links: to.map(link),
    linkedFrom: Object.keys(links)
      .filter((other) => links[other]?.includes(name))
      .map(link),
  })) as unknown as PageInfo[];
}

describe('The drawing about a page', () => {
  it('has what leads there and where it leads, each pair once', () => {
    const pages = pageBoxes(app({ home: ['a', 'a'], a: ['b', 'home'], b: ['c'], c: [], alone: [] }));
    const one = neighboursOf(pages, 'a', 1);
    expect(one.boxes).toEqual(['a', 'b', 'home']);
    expect(one.edges).toContainEqual({ from: 'a', to: 'home', label: 'key → id', isBothWays: true });
    expect(one.edges).toHaveLength(2);
    expect(neighboursOf(pages, 'a', 2).boxes).toEqual(['a', 'b', 'home', 'c']);
    expect(neighboursOf(pages, 'nowhere', 1)).toEqual({ boxes: [], edges: [], left: 0 });
  });

  it('stops where it could not be read any more', () => {
    const many = Object.fromEntries(Array.from({ length: 900 }, (_, number) => [`p${number}`, ['hub']]));
    const drawn = neighboursOf(pageBoxes(app({ hub: [], ...many })), 'hub', 1);
    expect(drawn.boxes.length).toBe(mostBoxes);
    expect(drawn.left).toBe(901 - mostBoxes);
  });

  it('takes the pages of a record as one', () => {
    const pages = app({ about: [], 'a-list': ['a', 'b', 'b-list'], a: ['b'], 'b-list': ['b'], b: ['a'] }, (name) =>
      name === 'about' ? '' : (name[0] as string),
    );
    const boxes = recordBoxes(pages);
    expect(boxes.map(({ name, note }) => `${name}: ${note}`)).toEqual(['no record: 1 page', 'a: 2 pages', 'b: 2 pages']);
    expect(neighboursOf(boxes, 'a', 1).edges).toEqual([{ from: 'a', to: 'b', label: '3 links', isBothWays: true }]);
  });
});
