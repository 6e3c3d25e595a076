import { Button, NativeSelect, TextInput } from '@mantine/core';
import { useState } from 'react';

type Props = { label: string; names: { text: string; detail: string }[]; add: (key: string) => void };

/** Adds a key to a mapping: one of the names that can stand there, or a new one. */
export function AddKey({ label, names, add }: Props) {
  const [typed, setTyped] = useState('');
  if (names.length > 0)
    return (
      <NativeSelect
        size="xs"
        aria-label={label}
        value=""
        data={[
          { value: '', label: `${label}…` },
          ...names.map((name) => ({ value: name.text, label: name.detail === '' ? name.text : `${name.text} (${name.detail})` })),
        ]}
        onChange={(event) => event.currentTarget.value !== '' && add(event.currentTarget.value)}
      />
    );
  return (
    <form
      className="line"
      onSubmit={(event) => {
        event.preventDefault();
        if (typed.trim() !== '') add(typed.trim());
        setTyped('');
      }}
    >
      <TextInput
        size="xs"
        aria-label={label}
        placeholder="Name"
        value={typed}
        autoComplete="off"
        spellCheck={false}
        onChange={(event) => setTyped(event.currentTarget.value)}
      />
      <Button size="xs" variant="default" type="submit">
        Add
      </Button>
    </form>
  );
}
