import type { ProofBoard, ProofCell, ProofRow } from '../api/schema';
import { Go } from '../parts/Go';
import { Scroll } from '../parts/Scroll';

/** The board of a probe: pages by the kinds of IDs that were tried, and whether each answer is what the app file asks for. */
export function ReportBoard({ board }: { board: ProofBoard }) {
  return (
    <section aria-labelledby="board">
      <h2 id="board">Pages and IDs</h2>
      <Scroll sheet label="Answers by page and ID">
        <table className="plain cases">
          <thead>
            <tr>
              <th scope="col">Page</th>
              {board.cases.map((kind) => (
                <th key={kind} scope="col">
                  {kind}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {board.rows.map((row) => (
              <tr key={row.page}>
                <th scope="row">{row.page}</th>
                {board.cases.map((kind) => (
                  <td key={kind}>
                    <Cell row={row} kind={kind} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </section>
  );
}

function Cell({ row, kind }: { row: ProofRow; kind: string }) {
  const cells = row.cells.filter((cell) => cell.case === kind);
  const wrong = cells.filter((cell) => !cell.holds);
  if (cells.length === 0) return null;
  if (wrong.length === 0) return <span className="kept">{cells.length} hold</span>;
  return (
    <>
      <span className="wrong kept">
        {wrong.length} of {cells.length} wrong
      </span>
      <ul className="bare">
        {wrong.slice(0, 3).map((cell) => (
          <li key={`${cell.how} ${cell.address}`}>
            <Wrong cell={cell} />
          </li>
        ))}
      </ul>
    </>
  );
}

function Wrong({ cell }: { cell: ProofCell }) {
  return (
    <>
      {cell.how}{' '}
      <Go className="mono" to={{ name: 'try', address: cell.address, outcome: null }}>
        {cell.address}
      </Go>
      : {cell.actual}, not {cell.expected}
    </>
  );
}
