import { Button, NativeSelect, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { answered, api } from '../api/client';
import { pagesQuery, samplesQuery } from '../api/queries';
import type { PageInfo } from '../api/schema';
import { targetOf } from './target';

type Props = { state: string; address: string; tryIt: (address: string) => void };

/** The two ways to an address: pasted, or built from a page and an ID. */
export function TryForms({ state, address, tryIt }: Props) {
  return (
    <div className="sheet try-forms">
      <PasteForm address={address} tryIt={tryIt} />
      <BuildForm state={state} tryIt={tryIt} />
    </div>
  );
}

function PasteForm({ address, tryIt }: Omit<Props, 'state'>) {
  const [text, setText] = useState(address);
  const [fault, setFault] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const target = targetOf(text);
    if ('fault' in target) setFault(target.fault);
    else tryIt(target.path);
  };
  return (
    <form onSubmit={submit} aria-label="Paste an address">
      <TextInput
        className="grow"
        label="Address"
        placeholder="/bridges/7, or a whole URL"
        value={text}
        error={fault}
        spellCheck={false}
        autoComplete="off"
        onChange={(typed) => {
          setText(typed.currentTarget.value);
          setFault(null);
        }}
      />
      <Button type="submit">Try it</Button>
    </form>
  );
}

function BuildForm({ state, tryIt }: Omit<Props, 'address'>) {
  const pages = useQuery(pagesQuery(state));
  const samples = useQuery(samplesQuery(state));
  const [chosen, setChosen] = useState('');
  const [values, setValues] = useState<Record<string, string>>({});
  const [fault, setFault] = useState<string | null>(null);
  const page =
    pages.data?.find((each) => each.name === chosen) ?? pages.data?.find((each) => each.parameters.length > 0) ?? pages.data?.[0];
  const sample = samples.data?.find((each) => each.page === page?.name);

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (page === undefined) return;
    try {
      const link = await answered(api.POST('/api/links', { body: { page: page.name, values: asked(page, values) } }));
      tryIt(link.address);
    } catch (refused) {
      setFault((refused as Error).message);
    }
  };
  return (
    <form onSubmit={submit} aria-label="Choose a page and give an ID">
      <NativeSelect
        className="grow"
        label="Page"
        value={page?.name ?? ''}
        data={pages.data?.map((each) => each.name) ?? []}
        onChange={(change) => {
          setChosen(change.currentTarget.value);
          setValues({});
          setFault(null);
        }}
      />
      {page?.parameters.map((parameter, place) => (
        <TextInput
          key={`${page.name} ${parameter.name}`}
          className="grow"
          label={parameter.name}
          placeholder={sample?.ids[place] ?? ''}
          value={values[parameter.name] ?? ''}
          spellCheck={false}
          autoComplete="off"
          onChange={(typed) => {
            setValues({ ...values, [parameter.name]: typed.currentTarget.value });
            setFault(null);
          }}
        />
      ))}
      <Button type="submit" variant="default" disabled={page === undefined}>
        Build and try
      </Button>
      {fault !== null && (
        <p role="alert" className="outcome" data-kind="trouble">
          {fault}
        </p>
      )}
    </form>
  );
}

/** A value for each parameter, empty where nothing was typed: what that comes to is the service's to say. */
function asked(page: PageInfo, values: Record<string, string>): Record<string, string> {
  const given = page.parameters.filter((parameter) => parameter.required || values[parameter.name]);
  return Object.fromEntries(given.map((parameter) => [parameter.name, values[parameter.name] ?? '']));
}
