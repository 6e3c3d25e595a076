import { Button } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { answered, api } from '../api/client';
import type { ChangeInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Heads } from '../parts/Heads';
import { Loaded } from '../parts/Loaded';
import { Scroll } from '../parts/Scroll';
import { Empty } from '../parts/States';
import { dayAndTime } from '../parts/time';

const most = 50;

/** What was changed through the pages, newest first; a change is taken back where its record is still as it left it. */
export function ChangesScreen({ record, before }: { record: string; before: number | null }) {
  const changes = useQuery({
    queryKey: ['changes', record, before],
    queryFn: () =>
      answered(
        api.GET('/api/changes', {
          params: {
            query: { limit: most, ...(record !== '' && { record }), ...(before !== null && { before }) },
          },
        }),
      ),
    refetchInterval: 2000,
  });
  return (
    <>
      <div className="head">
        <div>
          <h1>{record === '' ? 'Changes' : `Changes of ${record}`}</h1>
          <p>
            What was changed through the pages, newest first.{' '}
            {record !== '' && <Go to={{ name: 'changes', record: '', before: null }}>Of all records</Go>}
          </p>
        </div>
      </div>
      <Loaded query={changes} what="the changes" rows={8}>
        {(list) =>
          list.changes.length === 0 ? (
            <Empty title="Nothing has been changed">
              <p>What is saved, added or deleted on a page of the app is listed here.</p>
            </Empty>
          ) : (
            <>
              <ChangeTable changes={list.changes} record={record} />
              {list.more && (
                <p>
                  <Go to={{ name: 'changes', record, before: list.changes.at(-1)?.number ?? null }}>Older ones</Go>
                </p>
              )}
            </>
          )
        }
      </Loaded>
    </>
  );
}

function ChangeTable({ changes, record }: { changes: ChangeInfo[]; record: string }) {
  const client = useQueryClient();
  const [refusal, setRefusal] = useState<{ number: number; why: string } | null>(null);
  const undo = useMutation({
    mutationFn: (number: number) => answered(api.POST('/api/changes/{number}/undo', { params: { path: { number } } })),
    onMutate: () => setRefusal(null),
    onSuccess: () => client.invalidateQueries({ queryKey: ['changes'] }),
    onError: (error, number) => setRefusal({ number, why: error.message }),
  });
  return (
    <Scroll sheet label="Changes, newest first">
      <table className="plain stack">
        <Heads names={['Change', 'When', 'Record', 'What', 'Fields', 'Taken back']} />
        <tbody>
          {changes.map((change) => (
            <tr key={change.number}>
              <td>{change.number}</td>
              <td data-label="When">{dayAndTime(change.at)}</td>
              <td data-label="Record">
                {record === '' ? (
                  <Go to={{ name: 'changes', record: change.record, before: null }}>{change.record}</Go>
                ) : (
                  change.record
                )}{' '}
                <span className="mono">{change.id}</span>
              </td>
              <td data-label="What">
                {change.kind}
                {change.undoes !== null && `, taking back ${change.undoes}`}
                {change.state !== 'made' && <span className="wrong"> {change.state}</span>}
              </td>
              <td data-label="Fields">
                <ul className="bare">
                  {change.fields.map((field) => (
                    <li key={field.field}>
                      {field.field}:{' '}
                      {field.secret ? (
                        'secret'
                      ) : (
                        <>
                          <span className="mono">{field.before ?? 'empty'}</span> →{' '}
                          <span className="mono">{field.after ?? 'empty'}</span>
                        </>
                      )}
                    </li>
                  ))}
                </ul>
              </td>
              <td data-label="Taken back">
                {change.undoneBy !== null ? (
                  `by ${change.undoneBy}`
                ) : (
                  <Button
                    size="compact-xs"
                    variant="default"
                    disabled={undo.isPending || change.state !== 'made'}
                    onClick={() => undo.mutate(change.number)}
                  >
                    Take back<span className="unseen"> change {change.number}</span>
                  </Button>
                )}
                {refusal?.number === change.number && (
                  <p className="trouble" role="alert">
                    {refusal.why}
                  </p>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scroll>
  );
}
