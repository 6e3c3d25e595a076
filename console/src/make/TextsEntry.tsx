import { ActionIcon } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { choicesQuery } from '../api/queries';
import { AddKey } from './AddKey';
import { addItem, moveItem, reset, set, step, useWork } from './work';

type Props = {
  label: string;
  place: string;
  /** What the file says; null if it says nothing. */
  items: string[] | null;
  /** What stands there if the file says nothing. */
  implied: string[];
  /** The only words that can stand there; empty for any. */
  words: string[];
};

/** A list of texts in their order: moved, removed, added, one by one. */
export function TextsEntry({ label, place, items, implied, words }: Props) {
  const { revision, change } = useWork();
  const choices = useQuery(choicesQuery(revision, place, false));
  const shown = items ?? implied;
  const known = words.length > 0 ? words.map((text) => ({ text, detail: '' })) : (choices.data ?? []);
  const rest = known.filter((choice) => !shown.includes(choice.text));

  // A list that the file does not say yet is written out first, as it is.
  const add = (text: string) => (items === null ? change(set(place, [...implied, text])) : change(addItem(place, text)));
  const remove = (index: number) =>
    items === null
      ? change(
          set(
            place,
            implied.filter((_, at) => at !== index),
          ),
        )
      : change(reset(place + step(index)));
  const move = (index: number, to: number) => {
    if (items !== null) return change(moveItem(place + step(index), to));
    const all = [...implied];
    all.splice(to, 0, ...all.splice(index, 1));
    change(set(place, all));
  };
  return (
    <fieldset className="texts">
      <legend>{label}</legend>
      {items === null && implied.length > 0 && <p className="quiet">The file does not say it; this is what Jexa shows.</p>}
      <ol data-implied={items === null}>
        {shown.map((text, index) => (
          <li key={text}>
            <span className="mono">{text}</span>
            <ActionIcon
              variant="subtle"
              size={24}
              disabled={index === 0}
              aria-label={`Move ${text} up`}
              onClick={() => move(index, index - 1)}
            >
              ↑
            </ActionIcon>
            <ActionIcon
              variant="subtle"
              size={24}
              disabled={index === shown.length - 1}
              aria-label={`Move ${text} down`}
              onClick={() => move(index, index + 1)}
            >
              ↓
            </ActionIcon>
            <ActionIcon variant="subtle" size={24} aria-label={`Remove ${text}`} onClick={() => remove(index)}>
              ×
            </ActionIcon>
          </li>
        ))}
      </ol>
      {known.length > 0 && rest.length === 0 ? (
        <p className="quiet">All are there.</p>
      ) : (
        <AddKey label={`Add to ${label.toLowerCase()}`} names={rest} add={add} />
      )}
    </fieldset>
  );
}
