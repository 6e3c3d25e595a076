import { useEffect, useState } from 'react';
import type { SecondInfo, VisitInfo, WatchInfo } from '../api/schema';
import { token } from '../api/session';
import { EventReader } from './events';

/** What is known of the visits while somebody watches. */
export type Watched = {
  seconds: Map<number, SecondInfo>;
  visits: VisitInfo[];
  skipped: number;
  last: WatchInfo | null;
  /** Whether events come. */
  isLive: boolean;
};

const mostVisits = 200;
const keptSeconds = 300;
const pause = 2000;

/**
 * Visits as they happen. The stream needs the token, which `EventSource` cannot send; a stream that breaks is opened again
 * until the screen goes.
 */
export function useWatch(isPaused: boolean): Watched {
  const [watched, setWatched] = useState<Watched>({ seconds: new Map(), visits: [], skipped: 0, last: null, isLive: false });
  useEffect(() => {
    if (isPaused) return;
    const ending = new AbortController();
    const follow = async () => {
      while (!ending.signal.aborted) {
        try {
          const answer = await fetch('/api/watch', {
            headers: { Authorization: `Bearer ${token() ?? ''}` },
            signal: ending.signal,
          });
          if (answer.ok && answer.body !== null) await read(answer.body);
        } catch {
          // The service is away, or the screen goes: the loop decides.
        }
        if (ending.signal.aborted) return;
        setWatched((before) => ({ ...before, isLive: false }));
        await new Promise((resolve) => setTimeout(resolve, pause));
      }
    };
    const read = async (body: ReadableStream<Uint8Array>) => {
      const events = new EventReader();
      const stream = body.pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>).getReader();
      for (;;) {
        const { done, value } = await stream.read();
        if (done) return;
        for (const data of events.read(value)) {
          const event = JSON.parse(data) as WatchInfo;
          setWatched((before) => joined(before, event));
        }
      }
    };
    void follow();
    return () => ending.abort();
  }, [isPaused]);
  return watched;
}

/** What was known, and what an event tells. */
export function joined(before: Watched, event: WatchInfo): Watched {
  const seconds = new Map(before.seconds);
  for (const second of event.seconds) seconds.set(second.second, second);
  const newest = Math.max(0, ...seconds.keys());
  for (const second of seconds.keys()) if (second <= newest - keptSeconds) seconds.delete(second);
  const known = new Set(event.visits.map((visit) => visit.number));
  return {
    seconds,
    visits: [...event.visits, ...before.visits.filter((visit) => !known.has(visit.number))].slice(0, mostVisits),
    skipped: before.skipped + event.skipped,
    last: event,
    isLive: true,
  };
}
