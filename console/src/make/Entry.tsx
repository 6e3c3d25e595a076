import { ActionIcon, Button, NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { choicesQuery } from '../api/queries';
import { AddKey } from './AddKey';
import { ConditionsEntry } from './ConditionsEntry';
import { mapOf, nameOf, summaryOf, textOf } from './names';
import { PairsEntry } from './PairsEntry';
import { editorOf, type Schema, type Value } from './schema';
import { TextEntry } from './TextEntry';
import { TextsEntry } from './TextsEntry';
import { addItem, moveItem, reset, set, step, useWork } from './work';

type Props = {
  /** The key, which is also its name in the file. */
  name: string;
  place: string;
  schema: Schema;
  /** What the file says; undefined if it says nothing. */
  value: Value | undefined;
  /** What stands there if the file says nothing. */
  implied?: Value;
  /** What is shown with an item of a list, by its place. */
  aside?: (place: string, value: Value) => ReactNode;
};

/** The value of one key of the app file, whatever its shape. */
export function Entry({ name, place, schema, value, implied, aside }: Props) {
  const { file, change } = useWork();
  const editor = editorOf(file, name, schema);
  const label = nameOf(name);
  switch (editor.kind) {
    case 'text':
      return (
        <TextEntry
          label={label}
          place={place}
          value={textOf(value)}
          implied={textOf(implied)}
          several={editor.several}
          say={(text) => (text === '' ? value !== undefined && change(reset(place)) : change(set(place, text)))}
        />
      );
    case 'words':
      return (
        <NativeSelect
          size="xs"
          label={label}
          value={textOf(value)}
          data={[{ value: '', label: 'Not said' }, ...editor.words]}
          onChange={(event) =>
            event.currentTarget.value === '' ? change(reset(place)) : change(set(place, event.currentTarget.value))
          }
        />
      );
    case 'texts':
      return (
        <TextsEntry
          label={label}
          place={place}
          items={Array.isArray(value) ? value.map(textOf) : value === undefined ? null : [textOf(value)]}
          implied={Array.isArray(implied) ? implied.map(textOf) : []}
          words={editor.words}
        />
      );
    case 'pairs':
      return <PairsEntry label={label} place={place} pairs={textsOf(value)} implied={textsOf(implied)} />;
    case 'conditions':
      return <ConditionsEntry label={label} place={place} value={mapOf(value)} />;
    case 'keys':
      return <KeysEntry label={label} place={place} keys={editor.keys} value={mapOf(value)} />;
    case 'either':
      return <EitherEntry name={name} place={place} keys={editor.keys} value={value} />;
    case 'items':
      return (
        <ItemsEntry
          name={name}
          place={place}
          item={editor.item}
          value={value}
          short={editor.short}
          {...(aside ? { aside } : {})}
        />
      );
    case 'entries':
      return <EntriesEntry name={name} place={place} entry={editor.entry} value={mapOf(value)} short={editor.short} />;
    case 'none':
      return <p className="quiet">This key can only be changed in the text.</p>;
  }
}

type KeysProps = { label: string; place: string; keys: Record<string, Schema>; value: { [key: string]: Value } };

/** A mapping with known keys: those that are said, and those that can be. What is chosen is written when it has a value. */
export function KeysEntry({ label, place, keys, value }: KeysProps) {
  const { change } = useWork();
  const [chosen, setChosen] = useState<string[]>([]);
  const shown = Object.keys(keys).filter((key) => value[key] !== undefined || chosen.includes(key));
  const rest = Object.keys(keys).filter((key) => !shown.includes(key));
  const drop = (key: string) => {
    setChosen(chosen.filter((other) => other !== key));
    if (value[key] !== undefined) change(reset(place + step(key)));
  };
  return (
    <fieldset className="keys">
      <legend>{label}</legend>
      {shown.map((key) => (
        <div className="line" key={key}>
          <div className="grow">
            <Entry name={key} place={place + step(key)} schema={keys[key] ?? {}} value={value[key]} />
          </div>
          <ActionIcon variant="subtle" size={24} aria-label={`Remove ${nameOf(key)}`} onClick={() => drop(key)}>
            ×
          </ActionIcon>
        </div>
      ))}
      {rest.length > 0 && (
        <AddKey
          label="Say more"
          names={rest.map((key) => ({ text: key, detail: keys[key]?.description ?? '' }))}
          add={(key) => setChosen([...chosen, key])}
        />
      )}
    </fieldset>
  );
}

/** A text, or a mapping where a text does not say enough. */
function EitherEntry({
  name,
  place,
  keys,
  value,
}: {
  name: string;
  place: string;
  keys: Record<string, Schema>;
  value: Value | undefined;
}) {
  const { change } = useWork();
  if (typeof value === 'object' && value !== null)
    return <KeysEntry label={nameOf(name)} place={place} keys={keys} value={mapOf(value)} />;
  const first = ['to', 'by', 'record', 'type', 'is'].find((key) => keys[key] !== undefined) ?? Object.keys(keys)[0] ?? '';
  return (
    <div className="line">
      <TextEntry
        label={nameOf(name)}
        place={place}
        value={textOf(value)}
        say={(text) => (text === '' ? value !== undefined && change(reset(place)) : change(set(place, text)))}
      />
      {textOf(value) !== '' && (
        <Button size="compact-xs" variant="subtle" onClick={() => change(set(place, { [first]: textOf(value) }))}>
          More…
        </Button>
      )}
    </div>
  );
}

type ItemsProps = {
  name: string;
  place: string;
  item: Schema;
  value: Value | undefined;
  short: boolean;
  aside?: (place: string, value: Value) => ReactNode;
};

/** A list of parts that have keys of their own: links, blocks, side lists. */
function ItemsEntry({ name, place, item, value, short, aside }: ItemsProps) {
  const { file, revision, change } = useWork();
  const items = Array.isArray(value) ? value : value === undefined || value === null ? [] : [value];
  const first = Object.keys(itemKeys(file, item)).find((key) => ['to', 'by', 'record'].includes(key)) ?? '';
  const place0 = place + step(0) + (short ? '' : step(first));
  const choices = useQuery(choicesQuery(revision, place0, false));
  const one = singular[name] ?? 'item';
  return (
    <div className="items">
      {items.map((each, index) => (
        // An item has no name: its number is all that tells it from the others.
        // biome-ignore lint/suspicious/noArrayIndexKey: see above.
        <div key={index} className="item">
          <span className="tools">
            <ActionIcon
              variant="subtle"
              size={24}
              disabled={index === 0}
              aria-label={`Move ${one} ${index + 1} up`}
              onClick={() => change(moveItem(place + step(index), index - 1))}
            >
              ↑
            </ActionIcon>
            <ActionIcon
              variant="subtle"
              size={24}
              aria-label={`Remove ${one} ${index + 1}`}
              onClick={() => change(reset(place + step(index)))}
            >
              ×
            </ActionIcon>
          </span>
          <details open={items.length === 1 || undefined}>
            <summary>{summaryOf(each)}</summary>
            {typeof each === 'object' && each !== null ? (
              <KeysEntry
                label={`${nameOf(one)} ${index + 1}`}
                place={place + step(index)}
                keys={itemKeys(file, item)}
                value={mapOf(each)}
              />
            ) : (
              <EitherEntry name={one} place={place + step(index)} keys={itemKeys(file, item)} value={each} />
            )}
            {aside?.(place + step(index), each)}
          </details>
        </div>
      ))}
      <AddKey
        label={`Add a ${one}${choices.data && choices.data.length > 0 ? (name === 'links' ? ' to' : ' of') : ''}`}
        names={choices.data ?? []}
        add={(text) => change(addItem(place, short ? text : { [first]: text }))}
      />
    </div>
  );
}

type EntriesProps = { name: string; place: string; entry: Schema; value: { [key: string]: Value }; short: boolean };

/** A mapping of names to parts that have keys of their own: the fields of a record, the parameters of a query. */
function EntriesEntry({ name, place, entry, value, short }: EntriesProps) {
  const { file, revision, change } = useWork();
  const [chosen, setChosen] = useState<string[]>([]);
  const choices = useQuery(choicesQuery(revision, place, true));
  const shown = [...new Set([...Object.keys(value), ...chosen])];
  const names = (choices.data ?? []).filter((choice) => !shown.includes(choice.text) && !choice.text.includes('.'));
  const drop = (key: string) => {
    setChosen(chosen.filter((other) => other !== key));
    if (value[key] !== undefined) change(reset(place + step(key)));
  };
  return (
    <div className="items">
      {shown.map((key) => (
        <div key={key} className="item">
          <span className="tools">
            <ActionIcon variant="subtle" size={24} aria-label={`Remove ${key}`} onClick={() => drop(key)}>
              ×
            </ActionIcon>
          </span>
          <details open={chosen.includes(key) || undefined}>
            <summary>
              <span className="mono">{key}</span> {summaryOf(value[key])}
            </summary>
            {short && (typeof value[key] !== 'object' || value[key] === null) ? (
              <EitherEntry name={key} place={place + step(key)} keys={itemKeys(file, entry)} value={value[key]} />
            ) : (
              <KeysEntry label={key} place={place + step(key)} keys={itemKeys(file, entry)} value={mapOf(value[key])} />
            )}
          </details>
        </div>
      ))}
      <AddKey label={`Say something of a ${singular[name] ?? 'name'}`} names={names} add={(key) => setChosen([...chosen, key])} />
    </div>
  );
}

const singular: Record<string, string> = {
  links: 'link',
  related: 'block',
  side: 'side list',
  fields: 'field',
  parameters: 'parameter',
};

function itemKeys(file: Parameters<typeof editorOf>[0], item: Schema): Record<string, Schema> {
  const editor = editorOf(file, '', item);
  return editor.kind === 'keys' || editor.kind === 'either' ? editor.keys : {};
}

const textsOf = (value: Value | undefined): Record<string, string> =>
  Object.fromEntries(Object.entries(mapOf(value)).map(([key, own]) => [key, textOf(own)]));
