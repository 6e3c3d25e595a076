import { Button } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { saveChange, siteQuery, trialQuery } from '../api/queries';
import type { ChangedFileInfo, ChangedLineInfo, NamedChangeRequest } from '../api/schema';
import { FindingCard } from '../parts/FindingCard';
import { Scroll } from '../parts/Scroll';
import { Loading } from '../parts/States';
import { counted } from '../parts/words';

type Props = { version: string; request: NamedChangeRequest; saved: (file: ChangedFileInfo) => void };

/** What would become of the file: the lines that differ, and what check says. Nothing is saved before the button. */
export function Trial({ version, request, saved }: Props) {
  const client = useQueryClient();
  const trial = useQuery(trialQuery(version, request));
  const save = useMutation({
    mutationFn: () => saveChange(version, request),
    onSuccess: (file) => {
      saved(file);
      void client.invalidateQueries({ queryKey: siteQuery.queryKey });
    },
  });
  if (trial.error !== null)
    return (
      <div className="sheet says" role="alert">
        <h2>This cannot be done</h2>
        <p>{trial.error.message}</p>
      </div>
    );
  if (trial.data === undefined) return <Loading what="what would change" />;
  const { file, lines, texts, findings, serves } = trial.data;
  const wrong = findings.filter((finding) => finding.severity !== 'hint');
  return (
    <div className="sheet trial">
      <div className="trial-head">
        <h2>{lines.length === 0 ? 'Nothing would change' : counted(lines.length, 'line differs', 'lines differ')}</h2>
        <Button
          size="xs"
          variant={serves ? 'filled' : 'default'}
          disabled={lines.length === 0}
          loading={save.isPending}
          onClick={() => save.mutate()}
        >
          {serves ? 'Save' : 'Save, though it makes no site'}
        </Button>
      </div>
      {save.error !== null && (
        <p className="trouble" role="alert">
          {save.error.message}
        </p>
      )}
      {texts.map((text) => (
        <Difference key={text.file} file={text.file} lines={text.lines} />
      ))}
      <Difference file={file} lines={lines} />
      {wrong.length > 0 && (
        <>
          <h3>What check would say</h3>
          {wrong.map((finding) => (
            <FindingCard key={`${finding.code}:${finding.line}:${finding.column}`} finding={finding} withPlace={false} />
          ))}
        </>
      )}
    </div>
  );
}

function Difference({ file, lines }: { file: string; lines: ChangedLineInfo[] }) {
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
