import { ActionIcon, Button, NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { choicesQuery } from '../api/queries';
import { AddKey } from './AddKey';
import { listOf, mapOf, textOf } from './names';
import type { Value } from './schema';
import { TextEntry } from './TextEntry';
import { addItem, reset, set, step, useWork } from './work';

type Props = { label: string; place: string; value: { [key: string]: Value } };

/** Words for the comparisons of a condition, by their keys in the file. */
const comparisons: Record<string, string> = {
  equals: 'is',
  one_of: 'is one of',
  not: 'is not',
  is: 'is empty or filled',
  from: 'is at least',
  to: 'is at most',
  above: 'is more than',
  below: 'is less than',
  contains: 'contains',
  starts_with: 'begins with',
  year: 'is in the year',
  month: 'is in the month',
};

const groups: Record<string, string> = { any: 'At least one of these', all: 'All of these' };

/** Conditions on fields, and groups of conditions. */
export function ConditionsEntry({ label, place, value }: Props) {
  const { revision, change } = useWork();
  const choices = useQuery(choicesQuery(revision, fieldsPlace(place), true));
  const fields = Object.keys(value).filter((key) => groups[key] === undefined);
  const names = (choices.data ?? []).filter((name) => !fields.includes(name.text));
  return (
    <fieldset className="conditions">
      <legend>{label}</legend>
      {fields.map((field) => (
        <Condition key={field} field={field} place={place + step(field)} value={value[field] ?? ''} />
      ))}
      {Object.keys(groups)
        .filter((group) => value[group] !== undefined)
        .map((group) => (
          <fieldset key={group}>
            <legend>{groups[group]}</legend>
            {listOf(value[group]).map((item, index) => (
              // A case has no name: its number is all that tells it from the others.
              // biome-ignore lint/suspicious/noArrayIndexKey: see above.
              <div className="line" key={index}>
                <ConditionsEntry label={`Case ${index + 1}`} place={place + step(group) + step(index)} value={mapOf(item)} />
                <ActionIcon
                  variant="subtle"
                  size={24}
                  aria-label={`Remove case ${index + 1}`}
                  onClick={() => change(reset(place + step(group) + step(index)))}
                >
                  ×
                </ActionIcon>
              </div>
            ))}
            <AddKey
              label="Add a case about"
              names={choices.data ?? []}
              add={(field) => change(addItem(place + step(group), { [field]: { is: 'filled' } }))}
            />
          </fieldset>
        ))}
      <AddKey label="Add a condition on" names={names} add={(field) => change(set(place + step(field), { is: 'filled' }))} />
      {value.any === undefined && fields.length > 0 && (
        <Button
          size="compact-xs"
          variant="subtle"
          onClick={() => change(set(`${place}/any`, [{ [fields[0] ?? '']: { is: 'filled' } }]))}
        >
          Add alternatives
        </Button>
      )}
    </fieldset>
  );
}

function Condition({ field, place, value }: { field: string; place: string; value: Value }) {
  const { change } = useWork();
  const own = Array.isArray(value)
    ? { one_of: value }
    : typeof value === 'object' && value !== null
      ? value
      : { equals: value ?? '' };
  return (
    <div className="condition">
      {Object.entries(own).map(([comparison, operand]) => (
        <div className="line" key={comparison}>
          <NativeSelect
            size="xs"
            label={field}
            value={comparison}
            data={Object.entries(comparisons).map(([key, words]) => ({ value: key, label: words }))}
            onChange={(event) => change(set(place, written(event.currentTarget.value, textOf(operand))))}
          />
          {comparison === 'is' ? (
            <NativeSelect
              size="xs"
              label="Value"
              value={textOf(operand)}
              data={[...new Set(['filled', 'empty', textOf(operand)])]}
              onChange={(event) => change(set(place, written('is', event.currentTarget.value)))}
            />
          ) : (
            <TextEntry
              label={comparison === 'one_of' ? 'Values, with commas' : 'Value, or {parameter}'}
              place={`${place}/${comparison}`}
              value={textOf(operand)}
              say={(text) => change(set(place, withComparison(own, comparison, text)))}
            />
          )}
          <ActionIcon
            variant="subtle"
            size={24}
            aria-label={`Remove the condition on ${field}`}
            onClick={() => change(reset(place))}
          >
            ×
          </ActionIcon>
        </div>
      ))}
    </div>
  );
}

/** Conditions within groups are about the same record as those around them. */
const fieldsPlace = (place: string) => place.replace(/\/(any|all)\/\d+/g, '');

function written(comparison: string, text: string): Value {
  if (comparison === 'equals') return text;
  if (comparison === 'one_of') return { one_of: text.startsWith('{') ? text : partsOf(text) };
  if (comparison === 'is') return { is: text === 'empty' ? 'empty' : 'filled' };
  return { [comparison]: text };
}

/** The condition with one of its comparisons changed. */
function withComparison(own: { [key: string]: Value }, comparison: string, text: string): Value {
  const changed = written(comparison, text);
  return Object.keys(own).length === 1 || typeof changed === 'string' || changed === null
    ? changed
    : { ...own, ...(changed as { [key: string]: Value }) };
}

const partsOf = (text: string) =>
  text
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '');
