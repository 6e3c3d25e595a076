import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { workingQuery } from '../api/queries';
import type { SiteInfo } from '../api/schema';
import { useDeed } from '../make/work';
import { Go } from '../parts/Go';
import { counted } from '../parts/words';

/**
 * What was changed and is not saved yet: on every screen, with undo and redo. Ctrl-Z and Ctrl-Y do the same outside of fields.
 */
export function WorkBar({ site }: { site: SiteInfo }) {
  const copy = useQuery(workingQuery);
  const deed = useDeed();
  const { refetch } = copy;
  const known = copy.data?.revision;

  // Another console, or the file itself, has changed it.
  useEffect(() => {
    if (known !== undefined && site.workingRevision > known) void refetch();
  }, [site.workingRevision, known, refetch]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the file was taken up: what differs from it is another matter now.
  useEffect(() => {
    void refetch();
  }, [site.revision, refetch]);

  const undo = copy.data !== undefined && copy.data.done > 0;
  const redo = copy.data !== undefined && copy.data.done < copy.data.steps.length;
  const { mutate } = deed;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const inField = event.target instanceof HTMLElement && event.target.closest('input, textarea, select, .cm-editor') !== null;
      if (inField || !(event.ctrlKey || event.metaKey)) return;
      const again = event.key === 'y' || (event.key === 'Z' && event.shiftKey);
      if (event.key === 'z' && undo) mutate({ do: 'undo' });
      else if (again && redo) mutate({ do: 'redo' });
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [undo, redo, mutate]);

  if (copy.data === undefined || (!copy.data.changed && copy.data.steps.length === 0)) return null;
  const { data } = copy;
  const wrong = data.findings.filter(({ finding }) => finding.severity !== 'hint').length;
  return (
    <section className="work-bar" aria-label="Working copy">
      <span>
        {data.changed ? (
          <>
            <strong>Not saved:</strong> {data.done > 0 ? (data.steps[data.done - 1] ?? '') : 'changes'}
          </>
        ) : (
          'Saved.'
        )}
        {wrong > 0 && <span className="wrong"> {counted(wrong, 'finding')}</span>}
        {data.diskGone && <strong> The file is gone.</strong>}
        {data.diskDiffers && <strong> The file was changed meanwhile.</strong>}
      </span>
      <span className="line">
        <Button size="compact-xs" variant="default" disabled={!undo} onClick={() => deed.mutate({ do: 'undo' })}>
          Undo
        </Button>
        <Button size="compact-xs" variant="default" disabled={!redo} onClick={() => deed.mutate({ do: 'redo' })}>
          Redo
        </Button>
        <Go to={{ name: 'save' }}>Compare and save</Go>
      </span>
    </section>
  );
}
