import * as dagre from '@dagrejs/dagre';
import type { MouseEvent } from 'react';
import { go, type Screen, writeScreen } from '../address';
import type { Box } from './boxes';
import type { Drawn } from './neighbours';

type MapAddress = Extract<Screen, { name: 'map' }>;
type Props = { boxes: Box[]; drawn: Drawn; screen: MapAddress; faulty: Set<string> };

const boxWidth = 168;
const boxHeight = 40;

/** Boxes, and links as arrows with their label. Each box leads to the drawing about itself. */
export default function Drawing({ boxes, drawn, screen, faulty }: Props) {
  const { about, steps } = screen;
  const graph = new dagre.graphlib.Graph({ multigraph: false });
  graph.setGraph({ rankdir: 'LR', ranksep: 50, nodesep: 12, marginx: 8, marginy: 8 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const name of drawn.boxes) graph.setNode(name, { width: boxWidth, height: boxHeight });
  for (const edge of drawn.edges)
    graph.setEdge(edge.from, edge.to, { width: Math.min(180, edge.label.length * 6), height: 14, labelpos: 'c' });
  dagre.layout(graph);
  const { width = 0, height = 0 } = graph.graph();
  const most = 30;
  const byName = new Map(boxes.map((box) => [box.name, box]));
  const follow = (screen: Screen) => (click: MouseEvent) => {
    if (click.button !== 0 || click.metaKey || click.ctrlKey || click.shiftKey) return;
    click.preventDefault();
    go(screen);
  };
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height}>
      <title>Links around {about}</title>
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
            {isNear && edge.label !== '' && (
              <text className="small" x={placed.x} y={(placed.y ?? 0) + 3} textAnchor="middle">
                {short(edge.label, most)}
              </text>
            )}
          </g>
        );
      })}
      {drawn.boxes.map((name) => {
        const { x, y } = graph.node(name);
        const target: Screen = { ...screen, about: name };
        return (
          <a
            key={name}
            href={writeScreen(target)}
            onClick={follow(target)}
            className={`${name === about ? 'about' : ''} ${faulty.has(name) ? 'faulty' : ''}`}
          >
            <rect x={x - boxWidth / 2} y={y - boxHeight / 2} width={boxWidth} height={boxHeight} rx="4" />
            <text x={x} y={y - 3} textAnchor="middle">
              {short(name, 24)}
            </text>
            <text className="small" x={x} y={y + 12} textAnchor="middle">
              {short(byName.get(name)?.note ?? '', 30)}
            </text>
          </a>
        );
      })}
    </svg>
  );
}

const short = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text);
