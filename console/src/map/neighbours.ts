import type { Box, Lead } from './boxes';

export type Edge = { from: string; to: string; label: string; isBothWays: boolean };
export type Drawn = { boxes: string[]; edges: Edge[]; left: number };

/** The most boxes of a drawing: more cannot be read. */
export const mostBoxes = 60;

/**
 * A box and what is within some links of it: to the left what leads there, to the right where it leads; the nearest first, as
 * many as can be read. Each box is joined to those by which it was found: all other links would hide these.
 */
export function neighboursOf(boxes: Box[], about: string, steps: number): Drawn {
  const byName = new Map(boxes.map((box) => [box.name, box]));
  if (!byName.has(about)) return { boxes: [], edges: [], left: 0 };
  const found = new Set([about]);
  const edges = new Map<string, Edge>();
  let left = 0;
  for (const side of ['leadsTo', 'ledFrom'] as const) {
    let edge = [about];
    for (let step = 0; step < steps; step++) {
      const next = new Set<string>();
      for (const name of edge)
        for (const lead of byName.get(name)?.[side] ?? []) {
          if (lead.to === name || !byName.has(lead.to)) continue;
          const isNew = !found.has(lead.to);
          if (isNew && found.size >= mostBoxes) {
            left++;
            continue;
          }
          if (isNew || next.has(lead.to) || (step === 0 && lead.to !== about)) join(edges, name, side, lead);
          if (isNew) {
            found.add(lead.to);
            next.add(lead.to);
          }
        }
      edge = [...next];
    }
  }
  return { boxes: [...found], edges: [...edges.values()], left };
}

function join(edges: Map<string, Edge>, name: string, side: 'leadsTo' | 'ledFrom', lead: Lead): void {
  const [from, to] = side === 'leadsTo' ? [name, lead.to] : [lead.to, name];
  const back = edges.get(`${to} ${from}`);
  if (back !== undefined) {
    back.isBothWays = true;
    return;
  }
  const known = edges.get(`${from} ${to}`);
  edges.set(`${from} ${to}`, { from, to, label: known?.label || lead.label, isBothWays: known?.isBothWays ?? false });
}
