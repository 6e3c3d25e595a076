import { ActionIcon } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { choicesQuery } from '../api/queries';
import { AddKey } from './AddKey';
import { TextEntry } from './TextEntry';
import { reset, set, step, useWork } from './work';

type Props = {
  label: string;
  place: string;
  pairs: Record<string, string>;
  /** What fills a key if the file does not say it. */
  implied: Record<string, string>;
};

/** Names with a text each. Names that can stand there are offered, each with what it means now. */
export function PairsEntry({ label, place, pairs, implied }: Props) {
  const { revision, change } = useWork();
  const choices = useQuery(choicesQuery(revision, place, true));
  const known = (choices.data ?? []).map((choice) => choice.text);
  const keys = [...new Set([...Object.keys(pairs), ...known])];
  const write = (key: string, text: string) =>
    text === '' ? pairs[key] !== undefined && change(reset(place + step(key))) : change(set(place + step(key), text));
  return (
    <fieldset className="pairs">
      <legend>{label}</legend>
      {keys.map((key) => (
        <div className="line" key={key}>
          <TextEntry
            label={key}
            place={place + step(key)}
            value={pairs[key] ?? ''}
            implied={implied[key] === undefined ? '' : `${implied[key]} (implied)`}
            say={(text) => write(key, text)}
          />
          {pairs[key] !== undefined && (
            <ActionIcon variant="subtle" size={24} aria-label={`Remove ${key}`} onClick={() => change(reset(place + step(key)))}>
              ×
            </ActionIcon>
          )}
        </div>
      ))}
      {known.length === 0 && <AddKey label={`Add to ${label}`} names={[]} add={(key) => change(set(place + step(key), ''))} />}
    </fieldset>
  );
}
