import { useMutation, useQueryClient } from '@tanstack/react-query';
import { createContext, useContext } from 'react';
import { answered, api, ServiceError } from '../api/client';
import { siteQuery, workingQuery } from '../api/queries';
import type { NamedChangeRequest, WorkingCopyInfo, WorkingFindingInfo } from '../api/schema';
import type { SchemaFile, Value } from './schema';

/** What the forms of the screen share: the schema, what is wrong, and how a place of the file is changed. */
export type Work = {
  file: SchemaFile;
  revision: number;
  findings: WorkingFindingInfo[];
  change: (...changes: NamedChangeRequest[]) => void;
};

export const WorkContext = createContext<Work | null>(null);

export function useWork(): Work {
  const work = useContext(WorkContext);
  if (work === null) throw new Error('There is no working copy around this form.');
  return work;
}

/** A named change, as the service takes it. */
export const set = (place: string, value: Value): NamedChangeRequest => ({ change: 'set', place, value });
export const reset = (place: string): NamedChangeRequest => ({ change: 'reset', place });
export const addItem = (place: string, value: Value): NamedChangeRequest => ({ change: 'add-item', place, value });
export const moveItem = (place: string, to: number): NamedChangeRequest => ({ change: 'move-item', place, to });
export const renameKey = (place: string, name: string): NamedChangeRequest => ({ change: 'rename-key', place, name });

/** A step of a JSON Pointer (RFC 6901). */
export const step = (key: string | number) => `/${String(key).replaceAll('~', '~0').replaceAll('/', '~1')}`;

/** The steps of a JSON Pointer. */
export const stepsOf = (place: string) =>
  place
    .split('/')
    .slice(1)
    .map((key) => key.replaceAll('~1', '/').replaceAll('~0', '~'));

/** What is done to the working copy as a whole. Each answers with the working copy as it is then. */
export type Deed =
  | { do: 'change'; changes: NamedChangeRequest[] }
  | { do: 'undo' | 'redo' | 'discard' }
  | { do: 'type'; version: string; text: string }
  | { do: 'save'; version: string }
  | { do: 'merge'; takeMine: boolean[] }
  | { do: 'bring-back'; version: string };

function send(deed: Deed): Promise<WorkingCopyInfo> {
  switch (deed.do) {
    case 'change':
      return answered(api.POST('/api/working-copy/changes', { body: { changes: deed.changes, label: null } }));
    case 'undo':
      return answered(api.POST('/api/working-copy/undo'));
    case 'redo':
      return answered(api.POST('/api/working-copy/redo'));
    case 'discard':
      return answered(api.POST('/api/working-copy/discard'));
    case 'type':
      return answered(api.PUT('/api/working-copy/text', { body: { version: deed.version, text: deed.text } }));
    case 'save':
      return answered(api.POST('/api/working-copy/save', { body: { version: deed.version } }));
    case 'merge':
      return answered(api.POST('/api/working-copy/merge', { body: { takeMine: deed.takeMine } }));
    case 'bring-back':
      return answered(api.POST('/api/working-copy/versions/{version}', { params: { path: { version: deed.version } } }));
  }
}

/** Does something to the working copy. One deed waits for the other, so that they arrive in the order they were done. */
export function useDeed() {
  const client = useQueryClient();
  return useMutation({
    scope: { id: 'working-copy' },
    mutationFn: send,
    onSuccess: (copy, deed) => {
      client.setQueryData(workingQuery.queryKey, copy);
      if (deed.do !== 'save') return;
      void client.invalidateQueries({ queryKey: siteQuery.queryKey });
      void client.invalidateQueries({ queryKey: ['versions'] });
    },
    // Somebody else was faster: the next look shows what there is.
    onError: (error) => {
      if (error instanceof ServiceError) void client.invalidateQueries({ queryKey: workingQuery.queryKey });
    },
  });
}
