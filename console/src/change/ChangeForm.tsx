import { Checkbox, Group, NativeSelect, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { type ChangeAsked, type NamedChange, namedChanges, renameTo } from '../address';
import { pagesQuery, sourcesQuery } from '../api/queries';
import { kinds, kindsOf, words } from './asked';
import { KeyForm } from './KeyForm';
import type { Key } from './keys';

/** What is to be changed. Everything that is chosen stands in the address. */
export function ChangeForm({ state, screen, keys }: { state: string; screen: ChangeAsked; keys: Key[] }) {
  const pages = useQuery(pagesQuery(state));
  const sources = useQuery(sourcesQuery);
  const shown = new Set((pages.data ?? []).map((page) => page.record).filter((record) => record !== ''));
  const tables = (sources.data ?? []).flatMap((source) => source.tables.flatMap((table) => table.records));
  const records = [...new Set([...tables, ...shown])].sort();
  const choices =
    screen.change === 'add-pages'
      ? records.map((record) => ({ value: record, label: shown.has(record) ? record : `${record} (no pages yet)` }))
      : (pages.data ?? []).map((page) => ({ value: page.name, label: `${page.name}, ${page.path}` }));
  if (screen.about !== '' && !choices.some((choice) => choice.value === screen.about))
    choices.push({ value: screen.about, label: screen.about });
  const page = pages.data?.find((each) => each.name === screen.about);
  const set = (part: Partial<ChangeAsked>) => renameTo({ ...screen, ...part });
  const chosen = kindsOf(screen.to);
  return (
    <form className="sheet" aria-label="What to change" onSubmit={(event) => event.preventDefault()}>
      <NativeSelect
        label="What"
        value={screen.change}
        data={namedChanges.map((change) => ({ value: change, label: words[change] }))}
        onChange={(event) => set({ change: event.currentTarget.value as NamedChange, about: '', key: '', to: '' })}
      />
      <NativeSelect
        label={screen.change === 'add-pages' ? 'Record' : 'Page'}
        value={screen.about}
        data={[{ value: '', label: 'Please choose' }, ...choices]}
        onChange={(event) => set({ about: event.currentTarget.value, key: screen.change === 'set' ? screen.key : '' })}
      />
      {screen.change === 'rename-parameter' && (
        <NativeSelect
          label="Parameter"
          value={screen.key}
          data={[{ value: '', label: 'Please choose' }, ...(page?.parameters ?? []).map((parameter) => parameter.name)]}
          onChange={(event) => set({ key: event.currentTarget.value })}
        />
      )}
      {screen.change === 'move-page' && (
        <TextInput
          label="New path"
          description={page ? `Now ${page.path}` : 'Such as /bridges/{id}'}
          value={screen.to}
          spellCheck={false}
          autoComplete="off"
          onChange={(typed) => set({ to: typed.currentTarget.value })}
        />
      )}
      {(screen.change === 'rename-page' || screen.change === 'rename-parameter') && (
        <TextInput
          label="New name"
          description={screen.change === 'rename-page' ? 'Letters, digits, - and _' : 'Letters, digits and _'}
          value={screen.to}
          spellCheck={false}
          autoComplete="off"
          onChange={(typed) => set({ to: typed.currentTarget.value })}
        />
      )}
      {(screen.change === 'set' || screen.change === 'reset') && (
        <KeyForm
          state={state}
          page={screen.about}
          keys={keys}
          chosen={keys.find((key) => key.name === screen.key)}
          to={screen.to}
          isReset={screen.change === 'reset'}
          choose={(key) => set({ key, to: '' })}
          say={(to) => set({ to })}
        />
      )}
      {screen.change === 'add-pages' && (
        <Checkbox.Group
          label="Pages"
          value={chosen}
          onChange={(now) => set({ to: now.length === kinds.length ? '' : now.join(',') || 'none' })}
        >
          <Group gap="md" mt={6}>
            {kinds.map((kind) => (
              <Checkbox key={kind} value={kind} label={kind} />
            ))}
          </Group>
        </Checkbox.Group>
      )}
    </form>
  );
}
