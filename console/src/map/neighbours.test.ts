import { describe, expect, it } from 'vitest';
import type { PageInfo, PageLinkInfo } from '../api/schema';
import { mostPages, neighboursOf } from './neighbours';

const link = (page: string): PageLinkInfo => ({
  page,
  text: page,
  column: null,
  reason: 'written',
  passes: [{ parameter: 'id', field: 'key' }],
});

/** Pages by the names of those they lead to. */
function app(links: Record<string, string[]>): PageInfo[] {
  return Object.entries(links).map(([name, to]) => ({
    name,
    links: to.map(link),
    linkedFrom: Object.keys(links)
      .filter((other) => links[other]?.includes(name))
      .map(link),
  })) as unknown as PageInfo[];
}

describe('The drawing about a page', () => {
  it('has what leads there and where it leads, each pair once', () => {
    const pages = app({ home: ['a', 'a'], a: ['b', 'home'], b: ['c'], c: [], alone: [] });
    const one = neighboursOf(pages, 'a', 1);
    expect(one.pages).toEqual(['a', 'b', 'home']);
    expect(one.edges).toContainEqual({ from: 'a', to: 'home', passes: 'key → id', count: 1, isBothWays: true });
    expect(one.edges).toHaveLength(2);
    expect(neighboursOf(pages, 'a', 2).pages).toEqual(['a', 'b', 'home', 'c']);
    expect(neighboursOf(pages, 'nowhere', 1)).toEqual({ pages: [], edges: [], left: 0 });
  });

  it('stops where it could not be read any more', () => {
    const many = Object.fromEntries(Array.from({ length: 900 }, (_, number) => [`p${number}`, ['hub']]));
    const drawn = neighboursOf(app({ hub: [], ...many }), 'hub', 1);
    expect(drawn.pages.length).toBe(mostPages);
    expect(drawn.left).toBe(901 - mostPages);
  });
});
