import { Button, Checkbox, Group, NativeSelect, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { go } from '../address';
import { choicesQuery } from '../api/queries';
import type { WorkingCopyInfo } from '../api/schema';
import { Go } from '../parts/Go';
import type { Deed } from './work';

const kinds = ['list', 'detail', 'edit', 'new', 'delete'];

/** What can be made: pages for a record in one step, one page by itself; and what there is already. */
export function NewPage({
  copy,
  act,
}: {
  copy: WorkingCopyInfo;
  act: (deed: Deed, then?: (copy: WorkingCopyInfo) => void) => void;
}) {
  const records = useQuery(choicesQuery(copy.revision, '/pages/x/list', false));
  const [record, setRecord] = useState('');
  const [chosen, setChosen] = useState(kinds);
  const [name, setName] = useState('');
  const [kind, setKind] = useState('list');
  const [of, setOf] = useState('');
  const all = (records.data ?? []).map((choice) => choice.text);
  const shown = new Set(copy.pages.map((page) => page.page.record));
  const label = (each: string) => (shown.has(each) ? each : `${each} (no pages yet)`);
  const open = (page: string) => go({ name: 'make', section: 'pages', about: page, part: '', at: null });
  return (
    <div className="new-page">
      <form
        className="sheet"
        aria-label="Pages for a record"
        onSubmit={(event) => {
          event.preventDefault();
          const before = new Set(copy.pages.map((page) => page.page.name));
          act({ do: 'change', changes: [{ change: 'add-pages', record, kinds: chosen }] }, (after) => {
            const made = after.pages.find((page) => !before.has(page.page.name));
            if (made) open(made.page.name);
          });
        }}
      >
        <h2>Pages for a record, linked with each other</h2>
        <NativeSelect
          label="Record"
          value={record}
          data={[{ value: '', label: 'Please choose' }, ...all.map((each) => ({ value: each, label: label(each) }))]}
          onChange={(event) => setRecord(event.currentTarget.value)}
        />
        <Checkbox.Group label="Pages" value={chosen} onChange={setChosen}>
          <Group gap="md" mt={6}>
            {kinds.map((each) => (
              <Checkbox key={each} value={each} label={each} />
            ))}
          </Group>
        </Checkbox.Group>
        <Button type="submit" size="xs" disabled={record === '' || chosen.length === 0}>
          Make the pages
        </Button>
      </form>
      <form
        className="sheet"
        aria-label="One page"
        onSubmit={(event) => {
          event.preventDefault();
          act({ do: 'change', changes: [{ change: 'new-page', name, kinds: [kind], record: of }] }, () => open(name));
        }}
      >
        <h2>One page by itself</h2>
        <TextInput
          label="Name"
          description="Letters, digits, - and _"
          value={name}
          autoComplete="off"
          spellCheck={false}
          onChange={(event) => setName(event.currentTarget.value)}
        />
        <NativeSelect
          label="Kind"
          value={kind}
          data={[...kinds, 'text']}
          onChange={(event) => setKind(event.currentTarget.value)}
        />
        {kind === 'text' ? (
          <TextInput label="Text" value={of} onChange={(event) => setOf(event.currentTarget.value)} />
        ) : (
          <NativeSelect
            label="Record"
            value={of}
            data={[{ value: '', label: 'Please choose' }, ...all]}
            onChange={(event) => setOf(event.currentTarget.value)}
          />
        )}
        <Button type="submit" size="xs" disabled={name === '' || of === ''}>
          Make the page
        </Button>
      </form>
      <div className="sheet there">
        <h2>What is there already</h2>
        <ul className="bare">
          {copy.pages.map(({ page }) => (
            <li key={page.name}>
              <Go to={{ name: 'make', section: 'pages', about: page.name, part: '', at: null }}>{page.name}</Go>{' '}
              <span className="quiet">
                {page.kind} {page.record}, <span className="mono">{page.path}</span>
              </span>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}
