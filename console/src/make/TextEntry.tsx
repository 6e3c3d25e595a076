import { Textarea, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useId, useRef, useState } from 'react';
import { choicesQuery } from '../api/queries';
import { useWork } from './work';

type Props = {
  label: string;
  place: string;
  value: string;
  /** What stands there if nothing is said. */
  implied?: string;
  several?: boolean;
  /** Told what was typed, after a short pause. */
  say: (text: string) => void;
};

/** A pause in typing after which the preview follows, in milliseconds. */
const pause = 100;

/** One text, with the names that can stand there. It follows the file, unless one is typing. */
export function TextEntry({ label, place, value, implied, several = false, say }: Props) {
  const { revision } = useWork();
  const [typed, setTyped] = useState<string | null>(null);
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const list = useId();
  const choices = useQuery(choicesQuery(revision, place, false));
  const told = useRef(say);
  told.current = say;
  useEffect(() => () => clearTimeout(waiting.current), []);

  const type = (text: string) => {
    setTyped(text);
    clearTimeout(waiting.current);
    waiting.current = setTimeout(() => told.current(text), pause);
  };
  const leave = () => {
    clearTimeout(waiting.current);
    if (typed !== null && typed !== value) told.current(typed);
    setTyped(null);
  };
  const common = {
    label,
    value: typed ?? value,
    placeholder: implied ?? '',
    spellCheck: false,
    size: 'xs' as const,
    onBlur: leave,
  };
  if (several)
    return <Textarea {...common} autosize minRows={3} maxRows={14} onChange={(event) => type(event.currentTarget.value)} />;
  const names = choices.data ?? [];
  return (
    <>
      <TextInput
        {...common}
        autoComplete="off"
        {...(names.length > 0 ? { list } : {})}
        onChange={(event) => type(event.currentTarget.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') leave();
        }}
      />
      {names.length > 0 && (
        <datalist id={list}>
          {names.map((name) => (
            <option key={name.text} value={name.text} label={name.detail} />
          ))}
        </datalist>
      )}
    </>
  );
}
