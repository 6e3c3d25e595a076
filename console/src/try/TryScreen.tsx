import { Button, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { go, renameTo } from '../address';
import { traceQuery } from '../api/queries';
import type { SiteInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { BesideTrace } from './BesideTrace';
import { Panes } from './Panes';
import { RecentVisits } from './RecentVisits';
import { TryForms } from './TryForms';
import { targetOf } from './target';

type Props = { state: string; site: SiteInfo; address: string | null; outcome: string | null; beside: string | null };

/** Tries an address: what a visit to it comes to, beside what the visitor sees. Without one, the latest visits to choose from. */
export function TryScreen({ state, site, address, outcome, beside }: Props) {
  const [round, setRound] = useState(0);
  // What is clicked in the frame changes the address on screen, but must not load the frame anew.
  const [frame, setFrame] = useState({ began: address, now: address });
  if (address !== frame.now) setFrame({ began: address, now: address });
  const again = (asked: string) => {
    setRound(round + 1);
    setFrame({ began: asked, now: asked });
    go({ name: 'try', address: asked, outcome: null });
  };
  return (
    <>
      <div className="head">
        <div>
          <h1>Try an address</h1>
          <p>Every step of the visit, beside what the visitor gets.</p>
        </div>
        {address !== null && <Compare address={address} beside={beside} />}
      </div>
      <TryForms key={`${address}`} state={state} address={address ?? ''} tryIt={again} />
      {address === null ? (
        <>
          <p className="below">
            <Go to={{ name: 'cases', on: 'preview' }}>Try all pages with right and wrong IDs</Go>
          </p>
          <RecentVisits outcome={outcome} />
        </>
      ) : beside !== null ? (
        <BesideTrace state={state} one={address} other={beside} />
      ) : (
        <Tried
          key={`${round}:${frame.began}`}
          state={state}
          site={site}
          address={address}
          follow={(target) => {
            setFrame({ ...frame, now: target });
            renameTo({ name: 'try', address: target, outcome: null });
          }}
        />
      )}
    </>
  );
}

/** A second address to compare the first one with. */
function Compare({ address, beside }: { address: string; beside: string | null }) {
  const [typed, setTyped] = useState(beside ?? '');
  return (
    <form
      className="line"
      aria-label="Compare with another address"
      onSubmit={(event) => {
        event.preventDefault();
        const target = targetOf(typed);
        if ('path' in target) go({ name: 'try', address, outcome: null, beside: target.path });
      }}
    >
      <TextInput
        size="xs"
        aria-label="Another address"
        placeholder="Another address"
        value={typed}
        spellCheck={false}
        autoComplete="off"
        onChange={(event) => setTyped(event.currentTarget.value)}
      />
      <Button size="xs" variant="default" type="submit">
        Compare
      </Button>
      {beside !== null && <Go to={{ name: 'try', address, outcome: null }}>One alone</Go>}
    </form>
  );
}

type TriedProps = { state: string; site: SiteInfo; address: string; follow: (target: string) => void };

function Tried({ state, site, address, follow }: TriedProps) {
  // The frame keeps the address it began with; the visitor in it then goes where he likes.
  const [first] = useState(() => targetOf(address));
  const trace = useQuery({ ...traceQuery(state, 'path' in first ? first.path : ''), enabled: 'path' in first });
  if ('fault' in first) return null;
  return (
    <Loaded query={trace} what="the trace">
      {(tried) => <Panes site={site} trace={tried} path={first.path} follow={follow} />}
    </Loaded>
  );
}
