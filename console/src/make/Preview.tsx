import { Button, NativeSelect, SegmentedControl } from '@mantine/core';
import { useElementSize } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { casesQuery, previewSamplesQuery, previewTraceQuery } from '../api/queries';
import type { SiteInfo, TraceInfo, WorkingCopyInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { OutcomeMark } from '../parts/OutcomeMark';
import { Empty, Loading } from '../parts/States';
import { TraceSteps } from '../try/TraceSteps';

/** What is pointed at in the preview: the kind of part, its number among its like, and the words on it. */
export type Pointed = { kind: string; index: number; text: string };

type Props = {
  site: SiteInfo;
  copy: WorkingCopyInfo;
  /** The page that is being made; empty for none. */
  page: string;
  /** The address that is shown, without the prefix of the preview. */
  at: string | null;
  /** Why there is no address to show; null if there is one, or that is not known yet. */
  why: string | null;
  /** The part that is to be outlined. */
  outlined: Pointed | null;
  go: (at: string) => void;
  choose: (part: Pointed) => void;
};

/** How wide the page in the preview is: a wide one is drawn smaller. */
type Width = 'desk' | 'pane' | 'phone';

const deskWidth = 1200;

type Heard = { at?: string; chosen?: Pointed; key?: string };

/** The page that is being made, with real records: the preview follows each change, and tells what is pointed at. */
export function Preview({ site, copy, page, at: shown, why, outlined, go, choose }: Props) {
  const [mode, setMode] = useState<'use' | 'point'>('use');
  const [width, setWidth] = useState<Width>('desk');
  const [scheme, setScheme] = useState<'as it is' | 'light' | 'dark'>('as it is');
  const origin = new URL(site.pagesUrl).origin;
  const at = shown ?? '/';
  const trace = useQuery(previewTraceQuery(copy.revision, at));
  const samples = useQuery({ ...previewSamplesQuery(copy.revision, page), enabled: page !== '' });
  const cases = useQuery({ ...casesQuery(copy.revision, page), enabled: page !== '' });
  const addresses = (samples.data ?? []).flatMap((sample) => sample.address ?? []);
  const where = addresses.indexOf(at.split('&from=')[0]?.split('?from=')[0] ?? at);
  const turn = (by: number) => {
    const to = addresses[where < 0 ? 0 : where + by];
    if (to !== undefined) go(to);
  };
  const there = trace.data?.page ?? null;
  if (shown === null)
    return (
      <section className="sheet preview" aria-label="Preview">
        {why === null ? (
          <Loading what="the preview" />
        ) : (
          <Empty title="There is nothing to show yet">
            <p>{why}</p>
          </Empty>
        )}
      </section>
    );
  return (
    <section className="sheet preview" aria-label="Preview">
      <div className="preview-bar">
        <SegmentedControl
          size="xs"
          aria-label="What a click in the preview does"
          value={mode}
          data={[
            { value: 'use', label: 'Use' },
            { value: 'point', label: 'Point' },
          ]}
          onChange={(value) => setMode(value as 'use' | 'point')}
        />
        {addresses.length > 1 && (
          <span className="turns">
            <Button size="compact-xs" variant="default" disabled={where <= 0} onClick={() => turn(-1)}>
              Previous
            </Button>
            <Button size="compact-xs" variant="default" disabled={where >= addresses.length - 1} onClick={() => turn(1)}>
              Next
            </Button>
          </span>
        )}
        {(cases.data ?? []).length > 0 && (
          <NativeSelect
            size="xs"
            aria-label="Try an ID"
            value=""
            data={[
              { value: '', label: 'Try an ID…' },
              ...(cases.data ?? []).map((one) => ({
                value: one.address,
                label: one.case === 'empty' ? 'no records' : one.parameter === null ? one.case : `${one.case} ${one.parameter}`,
              })),
            ]}
            onChange={(event) => event.currentTarget.value !== '' && go(event.currentTarget.value)}
          />
        )}
        <NativeSelect
          size="xs"
          aria-label="Width"
          value={width}
          data={[
            { value: 'desk', label: 'Desk, 1200 px' },
            { value: 'pane', label: 'As wide as here' },
            { value: 'phone', label: 'Phone, 360 px' },
          ]}
          onChange={(event) => setWidth(event.currentTarget.value as Width)}
        />
        <NativeSelect
          size="xs"
          aria-label="Colours"
          value={scheme}
          data={['as it is', 'light', 'dark']}
          onChange={(event) => setScheme(event.currentTarget.value as 'as it is' | 'light' | 'dark')}
        />
      </div>
      <AddressLine at={at} go={go} trace={trace.data ?? null} />
      {there !== null && page !== '' && there !== page && (
        <p className="preview-note">
          This is the page <strong>{there}</strong>.{' '}
          <Go to={{ name: 'make', section: 'pages', about: there, part: '', at }}>Change this page</Go>
        </p>
      )}
      <Frames
        origin={origin}
        copy={copy}
        at={at}
        mode={mode}
        width={width}
        scheme={scheme}
        outlined={outlined}
        hear={(heard) => {
          if (heard.at !== undefined && heard.at !== at) go(heard.at);
          if (heard.chosen !== undefined) choose(heard.chosen);
          if (heard.key === 'Escape') setMode('use');
        }}
      />
    </section>
  );
}

/** Where the preview is, what a visit there comes to, and why. */
function AddressLine({ at, go, trace }: { at: string; go: (at: string) => void; trace: TraceInfo | null }) {
  const [typed, setTyped] = useState<string | null>(null);
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <form
        className="address-line"
        onSubmit={(event) => {
          event.preventDefault();
          if (typed?.startsWith('/')) go(typed);
          setTyped(null);
        }}
      >
        <input
          className="mono"
          aria-label="Address in the preview"
          value={typed ?? at}
          spellCheck={false}
          autoComplete="off"
          onChange={(event) => setTyped(event.currentTarget.value)}
        />
        {trace !== null && <OutcomeMark outcome={trace.outcome} />}
        <Button size="compact-xs" variant="default" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          Why
        </Button>
      </form>
      {isOpen && trace !== null && (
        <section className="preview-trace" aria-label="Why">
          <TraceSteps trace={trace} />
        </section>
      )}
    </>
  );
}

type FramesProps = {
  origin: string;
  copy: WorkingCopyInfo;
  at: string;
  mode: 'use' | 'point';
  width: Width;
  scheme: 'as it is' | 'light' | 'dark';
  outlined: Pointed | null;
  hear: (heard: Heard) => void;
};

/** A frame and what it was asked for: revision and address. */
type Frame = { id: number; revision: number; at: string };

/**
 * Two frames: the one that is seen, and behind it the next one while it loads, so that a change never shows a blank page. A
 * frame is on the pages' origin and cannot reach the console; it talks through a port that it was given.
 */
function Frames({ origin, copy, at, mode, width, scheme, outlined, hear }: FramesProps) {
  const { revision, preview } = copy;
  const [frames, setFrames] = useState<Frame[]>([{ id: 0, revision, at }]);
  // Where the newest frame is: a visitor in it may have gone on by a link, and is not to be fetched back.
  const there = useRef<Frame>({ id: 0, revision, at });
  const port = useRef<MessagePort>(undefined);
  const { ref: room, width: wide } = useElementSize();
  const scale = width === 'desk' && wide > 0 ? Math.min(1, wide / deskWidth) : 1;
  const listen = useRef(hear);
  listen.current = hear;

  useEffect(() => {
    if (there.current.revision === revision && there.current.at === at) return;
    const next = { id: there.current.id + 1, revision, at };
    there.current = next;
    setFrames((before) => [...before.slice(0, 1), next]);
  }, [revision, at]);
  useEffect(() => port.current?.postMessage({ mode }), [mode]);
  useEffect(() => port.current?.postMessage({ outline: outlined }), [outlined]);

  const loaded = (element: HTMLIFrameElement, frame: Frame) => {
    if (frame.id !== there.current.id) return;
    const channel = new MessageChannel();
    channel.port1.onmessage = ({ data }: MessageEvent<Heard>) => {
      if (frame.id !== there.current.id) return;
      if (!data.at?.startsWith(preview)) return listen.current(data);
      const now = data.at.slice(preview.length) || '/';
      there.current = { ...there.current, at: now };
      listen.current({ at: now });
    };
    element.contentWindow?.postMessage({ jexa: 'preview' }, origin, [channel.port2]);
    channel.port1.postMessage({ mode });
    channel.port1.postMessage({ outline: outlined });
    port.current = channel.port1;
    setFrames([frame]);
  };
  return (
    <div className="frames" data-width={width} ref={room}>
      {frames.map((frame, index) => (
        <iframe
          key={frame.id}
          title={index === 0 ? 'Preview of the page' : 'The next preview, while it loads'}
          src={origin + preview + frame.at}
          sandbox="allow-scripts allow-same-origin allow-forms"
          data-waiting={index > 0}
          aria-hidden={index > 0}
          tabIndex={index > 0 ? -1 : undefined}
          style={{
            colorScheme: scheme === 'as it is' ? undefined : scheme,
            ...(scale < 1 && { width: deskWidth, height: `${100 / scale}%`, transform: `scale(${scale})` }),
          }}
          onLoad={(event) => loaded(event.currentTarget, frame)}
        />
      ))}
    </div>
  );
}
