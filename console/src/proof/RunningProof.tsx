import { Button } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { answered, api } from '../api/client';
import type { ProofProgress } from '../api/schema';
import { left, seconds } from './words';

/** The proof that is being made: how far it is, how long it may take, and a way to stop it. */
export function RunningProof({ progress }: { progress: ProofProgress }) {
  const client = useQueryClient();
  const stop = useMutation({
    mutationFn: () => answered(api.POST('/api/proofs/stop')),
    onSuccess: () => client.invalidateQueries({ queryKey: ['proofs'] }),
  });
  const rest = left(progress);
  return (
    <section className="sheet running" aria-labelledby="running">
      <h2 id="running">
        {progress.means} of <span className="mono">{progress.subject}</span>
      </h2>
      <progress
        aria-label={`How far the ${progress.means} is`}
        {...(progress.most === null ? {} : { max: Math.max(1, progress.most), value: progress.done })}
      />
      <div className="line">
        <p className="grow">
          <span className="mono">{progress.doing}</span>
          {progress.most !== null && (
            <>
              {' '}
              · {progress.done.toLocaleString('en')} of about {progress.most.toLocaleString('en')}
            </>
          )}{' '}
          · {seconds(progress.seconds)}
          {rest !== null && `, about ${seconds(rest)} to go`}
        </p>
        <Button size="xs" variant="default" disabled={progress.isStopping || stop.isPending} onClick={() => stop.mutate()}>
          {progress.isStopping ? 'Stopping' : 'Stop'}
        </Button>
      </div>
      <p className="quiet">What was seen until then is told; the service goes on serving meanwhile.</p>
    </section>
  );
}
