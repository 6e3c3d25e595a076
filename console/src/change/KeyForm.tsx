import { NativeSelect, Textarea, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { valueQuery } from '../api/queries';
import { placeOf } from './asked';
import type { Key } from './keys';

type Props = {
  state: string;
  page: string;
  keys: Key[];
  chosen: Key | undefined;
  to: string;
  isReset: boolean;
  choose: (key: string) => void;
  say: (to: string) => void;
};

/** One key of a page: what it means, what the file says now, and what it is to say. */
export function KeyForm({ state, page, keys, chosen, to, isReset, choose, say }: Props) {
  const place = placeOf(page, chosen?.name ?? '');
  const now = useQuery({ ...valueQuery(state, place), enabled: page !== '' && chosen !== undefined });
  return (
    <>
      <NativeSelect
        label="Key"
        value={chosen?.name ?? ''}
        data={[{ value: '', label: 'Please choose' }, ...keys.map((key) => ({ value: key.name, label: key.name }))]}
        onChange={(event) => choose(event.currentTarget.value)}
      />
      {chosen && <p className="quiet">{chosen.means}</p>}
      {chosen && now.data && (
        <p className="quiet">
          {now.data.said ? (
            <>
              Now: <span className="mono">{shown(now.data.value)}</span>
            </>
          ) : (
            'The file does not say it: Jexa decides.'
          )}
        </p>
      )}
      {chosen && !isReset && <Value chosen={chosen} to={to} say={say} />}
    </>
  );
}

function Value({ chosen, to, say }: { chosen: Key; to: string; say: (to: string) => void }) {
  switch (chosen.shape) {
    case 'words':
      return (
        <NativeSelect
          label="Value"
          value={to}
          data={[{ value: '', label: 'Please choose' }, ...chosen.words]}
          onChange={(event) => say(event.currentTarget.value)}
        />
      );
    case 'texts':
      return (
        <Textarea
          label="Values"
          description="One on each line"
          value={to}
          autosize
          minRows={3}
          spellCheck={false}
          onChange={(typed) => say(typed.currentTarget.value)}
        />
      );
    case 'text':
      return (
        <TextInput
          label="Value"
          value={to}
          spellCheck={false}
          autoComplete="off"
          onChange={(typed) => say(typed.currentTarget.value)}
        />
      );
    case 'other':
      return <p>This key has entries of its own. Write it in the file; the service takes it up when you save.</p>;
  }
}

/** A value in one line; a long one is cut, since the difference has all of it. */
function shown(value: unknown): string {
  const text =
    typeof value === 'string'
      ? value
      : Array.isArray(value) && value.every((item) => typeof item === 'string')
        ? value.join(', ')
        : JSON.stringify(value);
  return text.length > 160 ? `${text.slice(0, 160)}…` : text;
}
