import * as dagre from '@dagrejs/dagre';
import type { MouseEvent } from 'react';
import { go, type Screen, writeScreen } from '../address';
import type { PageInfo } from '../api/schema';
import type { Drawn } from './neighbours';

type Props = { pages: PageInfo[]; drawn: Drawn; about: string; steps: number; faulty: Set<string> };

const boxWidth = 168;
const boxHeight = 40;

/** Pages as boxes, links as arrows with the field that fills the parameter. Each box leads to the drawing about its page. */
export default function Drawing({ pages, drawn, about, steps, faulty }: Props) {
  const graph = new dagre.graphlib.Graph({ multigraph: false });
  graph.setGraph({ rankdir: 'LR', ranksep: 50, nodesep: 12, marginx: 8, marginy: 8 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const name of drawn.pages) graph.setNode(name, { width: boxWidth, height: boxHeight });
  for (const edge of drawn.edges)
    graph.setEdge(edge.from, edge.to, { width: Math.min(180, edge.passes.length * 6), height: 14, labelpos: 'c' });
  dagre.layout(graph);
  const { width = 0, height = 0 } = graph.graph();
  const most = 30;
  const byName = new Map(pages.map((page) => [page.name, page]));
  const follow = (screen: Screen) => (click: MouseEvent) => {
    if (click.button !== 0 || click.metaKey || click.ctrlKey || click.shiftKey) return;
    click.preventDefault();
    go(screen);
  };
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height}>
      <title>Links around the page {about}</title>
      <defs>
        <marker id="head" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto-start-reverse">
          <path d="M0 0L8 4L0 8z" />
        </marker>
      </defs>
      {drawn.edges.map((edge) => {
        const placed = graph.edge(edge.from, edge.to) as { points: { x: number; y: number }[]; x?: number; y?: number };
        const line = placed.points.map(({ x, y }, index) => `${index === 0 ? 'M' : 'L'}${x} ${y}`).join('');
        const isNear = edge.from === about || edge.to === about;
        return (
          <g key={`${edge.from} ${edge.to}`} opacity={isNear || steps === 1 ? 1 : 0.5}>
            <path d={line} markerEnd="url(#head)" {...(edge.isBothWays && { markerStart: 'url(#head)' })} />
            {isNear && edge.passes !== '' && (
              <text className="small" x={placed.x} y={(placed.y ?? 0) + 3} textAnchor="middle">
                {short(edge.passes, most)}
              </text>
            )}
          </g>
        );
      })}
      {drawn.pages.map((name) => {
        const { x, y } = graph.node(name);
        const page = byName.get(name);
        const screen: Screen = { name: 'map', about: name, steps };
        return (
          <a
            key={name}
            href={writeScreen(screen)}
            onClick={follow(screen)}
            className={`${name === about ? 'about' : ''} ${faulty.has(name) ? 'faulty' : ''}`}
          >
            <rect x={x - boxWidth / 2} y={y - boxHeight / 2} width={boxWidth} height={boxHeight} rx="4" />
            <text x={x} y={y - 3} textAnchor="middle">
              {short(name, 24)}
            </text>
            <text className="small" x={x} y={y + 12} textAnchor="middle">
              {short(`${page?.kind} ${page?.path}`, 30)}
            </text>
          </a>
        );
      })}
    </svg>
  );
}

const short = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text);
