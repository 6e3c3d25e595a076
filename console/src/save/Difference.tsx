import type { ChangedLineInfo } from '../api/schema';
import { Scroll } from '../parts/Scroll';

/** The lines in which a file differs. */
export function Difference({ file, lines }: { file: string; lines: ChangedLineInfo[] }) {
  if (lines.length === 0) return null;
  return (
    <figure className="difference">
      <figcaption className="quiet mono">{file}</figcaption>
      <Scroll label={`What differs in ${file}`}>
        <table>
          <tbody>
            {lines.map((line) => (
              <tr key={`${line.new}:${line.line}`} data-new={line.new}>
                <td className="number">{line.line}</td>
                <td aria-label={line.new ? 'added' : 'removed'}>{line.new ? '+' : '−'}</td>
                <td>
                  <code>{line.text}</code>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </figure>
  );
}
