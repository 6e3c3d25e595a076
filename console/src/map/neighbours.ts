import type { PageInfo, PageLinkInfo } from '../api/schema';

export type Edge = { from: string; to: string; passes: string; count: number; isBothWays: boolean };
export type Drawn = { pages: string[]; edges: Edge[]; left: number };

/** The most boxes of a drawing: more cannot be read. */
export const mostPages = 60;

/**
 * A page and what is within some links of it: to the left what leads there, to the right where it leads; the nearest first, as
 * many as can be read. Each page is joined to those by which it was found: all other links would hide these.
 */
export function neighboursOf(pages: PageInfo[], about: string, steps: number): Drawn {
  const byName = new Map(pages.map((page) => [page.name, page]));
  if (!byName.has(about)) return { pages: [], edges: [], left: 0 };
  const found = new Set([about]);
  const edges = new Map<string, Edge>();
  let left = 0;
  for (const side of ['links', 'linkedFrom'] as const) {
    let edge = [about];
    for (let step = 0; step < steps; step++) {
      const next = new Set<string>();
      for (const name of edge)
        for (const link of byName.get(name)?.[side] ?? []) {
          if (link.page === name || !byName.has(link.page)) continue;
          const isNew = !found.has(link.page);
          if (isNew && found.size >= mostPages) {
            left++;
            continue;
          }
          if (isNew || next.has(link.page) || (step === 0 && link.page !== about)) join(edges, name, side, link);
          if (isNew) {
            found.add(link.page);
            next.add(link.page);
          }
        }
      edge = [...next];
    }
  }
  return { pages: [...found], edges: [...edges.values()], left };
}

function join(edges: Map<string, Edge>, name: string, side: 'links' | 'linkedFrom', link: PageLinkInfo): void {
  const [from, to] = side === 'links' ? [name, link.page] : [link.page, name];
  const passes = link.passes.map((pass) => `${pass.field} → ${pass.parameter}`).join(', ');
  const back = edges.get(`${to} ${from}`);
  if (back !== undefined) {
    back.isBothWays = true;
    return;
  }
  const known = edges.get(`${from} ${to}`);
  edges.set(`${from} ${to}`, {
    from,
    to,
    passes: known?.passes || passes,
    count: (known?.count ?? 0) + 1,
    isBothWays: known?.isBothWays ?? false,
  });
}
