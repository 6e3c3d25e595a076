import { Button, Checkbox, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, type ReactNode, useState } from 'react';
import { answered, api } from '../api/client';
import type { ProofOrder } from '../api/schema';
import { capital } from '../parts/words';
import { meanings } from './words';

const usual: ProofOrder = {
  means: 'check',
  only: null,
  rate: null,
  seconds: null,
  fetch: null,
  resume: false,
  url: null,
  records: null,
  headers: null,
};

/** One form for each kind of proof. */
export function BeginForms({ canResume }: { canResume: boolean }) {
  const client = useQueryClient();
  const begin = useMutation({
    mutationFn: (order: Partial<ProofOrder>) => answered(api.POST('/api/proofs', { body: { ...usual, ...order } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['proofs'] }),
  });
  const refusal = (means: string) => (begin.error !== null && begin.variables?.means === means ? begin.error.message : null);
  const run = (order: Partial<ProofOrder>) => begin.mutate(order);
  return (
    <div className="proofs">
      <Begin means="check" busy={begin.isPending} refusal={refusal('check')} submit={() => run({ means: 'check' })} />
      <SweepForm busy={begin.isPending} refusal={refusal('sweep')} canResume={canResume} run={run} />
      <ProbeForm busy={begin.isPending} refusal={refusal('probe')} run={run} />
      <AuditForm busy={begin.isPending} refusal={refusal('audit')} run={run} />
    </div>
  );
}

type FormProps = { busy: boolean; refusal: string | null; run: (order: Partial<ProofOrder>) => void };

function SweepForm({ busy, refusal, canResume, run }: FormProps & { canResume: boolean }) {
  const [rate, setRate] = useState('');
  const [fetch, setFetch] = useState('');
  const [resume, setResume] = useState(false);
  return (
    <Begin
      means="sweep"
      busy={busy}
      refusal={refusal}
      submit={() => run({ means: 'sweep', rate: numberOf(rate), fetch: numberOf(fetch), resume })}
    >
      <NumberEntry label="Rows a second" placeholder="as fast as it goes" value={rate} set={setRate} />
      <NumberEntry label="Records to compare with their pages" placeholder="none" value={fetch} set={setFetch} />
      <Checkbox
        label="Go on where the last one was stopped"
        checked={resume}
        disabled={!canResume}
        onChange={(event) => setResume(event.currentTarget.checked)}
      />
    </Begin>
  );
}

function ProbeForm({ busy, refusal, run }: FormProps) {
  const [rate, setRate] = useState('');
  const [url, setUrl] = useState('');
  return (
    <Begin
      means="probe"
      busy={busy}
      refusal={refusal}
      submit={() => run({ means: 'probe', rate: numberOf(rate), url: url.trim() || null })}
    >
      <NumberEntry label="Requests a second" placeholder="50" value={rate} set={setRate} />
      <TextInput
        label="Address of the pages"
        placeholder="this service"
        value={url}
        spellCheck={false}
        autoComplete="off"
        onChange={(typed) => setUrl(typed.currentTarget.value)}
      />
    </Begin>
  );
}

function AuditForm({ busy, refusal, run }: FormProps) {
  const [url, setUrl] = useState('');
  const [rate, setRate] = useState('');
  const [header, setHeader] = useState('');
  return (
    <Begin
      means="audit"
      busy={busy}
      refusal={refusal}
      submit={() =>
        run({
          means: 'audit',
          url: url.trim(),
          rate: numberOf(rate),
          headers: header.trim() === '' ? null : [header.trim()],
        })
      }
    >
      <TextInput
        label="Address of a list"
        placeholder="http://127.0.0.1:8080/bridges"
        required
        value={url}
        spellCheck={false}
        autoComplete="off"
        onChange={(typed) => setUrl(typed.currentTarget.value)}
      />
      <NumberEntry label="Requests a second" placeholder="5" value={rate} set={setRate} />
      <TextInput
        label="Header, for what needs a sign-in"
        placeholder="Cookie: session=…"
        value={header}
        spellCheck={false}
        autoComplete="off"
        onChange={(typed) => setHeader(typed.currentTarget.value)}
      />
    </Begin>
  );
}

type BeginProps = {
  means: string;
  busy: boolean;
  refusal: string | null;
  submit: () => void;
  children?: ReactNode;
};

function Begin({ means, busy, refusal, submit, children }: BeginProps) {
  const send = (event: FormEvent) => {
    event.preventDefault();
    submit();
  };
  return (
    <form className="sheet" onSubmit={send} aria-labelledby={`begin-${means}`}>
      <h2 id={`begin-${means}`}>{capital(means)}</h2>
      <p>{meanings[means]}</p>
      {children}
      <Button type="submit" size="xs" disabled={busy}>
        Begin the {means}
      </Button>
      {refusal !== null && (
        <p className="trouble" role="alert">
          {refusal}
        </p>
      )}
    </form>
  );
}

type EntryProps = { label: string; placeholder: string; value: string; set: (value: string) => void };

function NumberEntry({ label, placeholder, value, set }: EntryProps) {
  return (
    <TextInput
      label={label}
      placeholder={placeholder}
      value={value}
      inputMode="numeric"
      pattern="[1-9][0-9]{0,6}"
      title="A whole number from 1"
      autoComplete="off"
      onChange={(typed) => set(typed.currentTarget.value)}
    />
  );
}

function numberOf(text: string): number | null {
  return /^[1-9]\d*$/.test(text.trim()) ? Number(text) : null;
}
