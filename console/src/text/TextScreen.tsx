import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { workingQuery } from '../api/queries';
import { useDeed } from '../make/work';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { Loading } from '../parts/States';
import { counted } from '../parts/words';

// The editor is as large as the rest of the console: it is loaded when it is needed.
const TextEditor = lazy(() => import('./TextEditor'));

/** The text of the app file: the same working copy as the forms', with what can be typed and what is wrong. */
export function TextScreen({ line }: { line: number | null }) {
  const copy = useQuery(workingQuery);
  const deed = useDeed();
  return (
    <Loaded query={copy} what="the text" rows={12}>
      {(copy) => {
        const wrong = copy.findings.filter(({ finding }) => finding.severity !== 'hint');
        return (
          <>
            <div className="head">
              <div>
                <h1>{copy.file}</h1>
                <p>
                  {wrong.length === 0 ? 'No findings.' : `${counted(wrong.length, 'finding')}, in the margin.`} Ctrl-Space says
                  what can be typed; point at a word for what it means; F12 leads to where it is defined.
                </p>
              </div>
            </div>
            {deed.error !== null && (
              <p className="trouble" role="alert">
                {deed.error.message}
              </p>
            )}
            <Suspense fallback={<Loading what="the editor" rows={12} />}>
              <TextEditor copy={copy} line={line} type={(version, text) => deed.mutateAsync({ do: 'type', version, text })} />
            </Suspense>
            {wrong.length > 0 && (
              <section className="sheet trial" aria-label="Findings">
                {wrong.map(({ finding }) => (
                  <p key={`${finding.code}:${finding.line}:${finding.column}`}>
                    <Go to={{ name: 'text', line: finding.line }}>Line {finding.line}</Go>: <strong>{finding.code}</strong>{' '}
                    {finding.message} {finding.remedy}
                  </p>
                ))}
              </section>
            )}
          </>
        );
      }}
    </Loaded>
  );
}
