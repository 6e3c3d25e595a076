import type { ReactNode } from 'react';
import { Scroll } from './Scroll';

type Props = {
  label: string;
  columns: string[];
  rows: (string | null)[][];
  sheet?: boolean;
  /** What is known of a column, behind its name. */
  note?: (column: string) => ReactNode;
  /** A last column, by the number of the row. */
  last?: { heading: string; cell: (row: number) => ReactNode };
};

/** The first rows of a table as they are stored, so that one knows it when one sees it. */
export function RowsTable({ label, columns, rows, sheet = false, note, last }: Props) {
  return (
    <Scroll sheet={sheet} label={label}>
      <table className="plain rows">
        <thead>
          <tr>
            {columns.map((column) => (
              <th scope="col" key={column}>
                {column}
                {note?.(column)}
              </th>
            ))}
            {last && <th scope="col">{last.heading}</th>}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, index) => (
            // Rows of any table: nothing tells them apart but their place.
            // biome-ignore lint/suspicious/noArrayIndexKey: see above.
            <tr key={index}>
              {row.map((cell, at) => (
                <td key={columns[at]}>{cell ?? <span className="quiet">empty</span>}</td>
              ))}
              {last && <td>{last.cell(index)}</td>}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <p className="quiet">It has no rows yet.</p>}
    </Scroll>
  );
}
