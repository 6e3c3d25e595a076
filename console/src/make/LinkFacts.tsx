import { Button, NativeSelect, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { choicesQuery, previewLinksQuery } from '../api/queries';
import type { WorkingCopyInfo, WorkingPageInfo } from '../api/schema';
import { OutcomeMark } from '../parts/OutcomeMark';
import type { Value } from './schema';
import { useWork } from './work';

type Props = { copy: WorkingCopyInfo; page: WorkingPageInfo | undefined; at: string; link: Value };

const most = 6;

/** What a link comes to: which field fills which parameter, and the addresses it makes for the records in view. */
export function LinkFacts({ copy, page, at, link }: Props) {
  const to = typeof link === 'object' && link !== null && !Array.isArray(link) && typeof link.to === 'string' ? link.to : '';
  const target = copy.pages.find((each) => each.page.name === to);
  const links = useQuery({ ...previewLinksQuery(copy.revision, at), enabled: target !== undefined });
  if (to === '') return null;
  if (target === undefined) return <MakeTarget name={to} record={page?.page.record ?? ''} />;
  const passes = page?.page.links.find((each) => each.page === to)?.passes ?? [];
  const made = (links.data ?? []).filter((each) => each.page === to);
  return (
    <div className="link-facts">
      <p className="quiet">
        Leads to <span className="mono">{target.page.path}</span>
        {passes.length > 0 && (
          <>
            {': '}
            {passes.map((pass) => `${pass.parameter} ← ${pass.field}`).join(', ')}
          </>
        )}
      </p>
      {made.length > 0 ? (
        <table className="plain">
          <caption className="unseen">Addresses that links to {to} have in the preview</caption>
          <tbody>
            {made.slice(0, most).map((each) => (
              <tr key={each.address}>
                <td className="mono">{each.address}</td>
                <td>
                  <OutcomeMark outcome={each.outcome} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : (
        links.isSuccess && <p className="quiet">The page in the preview shows no such link.</p>
      )}
      {made.length > most && <p className="quiet">and {made.length - most} more in view</p>}
    </div>
  );
}

const kinds = ['list', 'detail', 'edit', 'new', 'delete', 'text'];

/** A page that a link leads to and that is not there yet is made from here. */
function MakeTarget({ name, record }: { name: string; record: string }) {
  const { revision, change } = useWork();
  const records = useQuery(choicesQuery(revision, '/pages/x/list', false));
  const [kind, setKind] = useState(record === name || name === '' ? 'detail' : 'list');
  const [of, setOf] = useState(record);
  return (
    <form
      className="make-target"
      aria-label={`Make the page ${name}`}
      onSubmit={(event) => {
        event.preventDefault();
        change({ change: 'new-page', name, kinds: [kind], record: of });
      }}
    >
      <p>
        There is no page <span className="mono">{name}</span> yet.
      </p>
      <div className="line">
        <NativeSelect label="Make it a" value={kind} data={kinds} onChange={(event) => setKind(event.currentTarget.value)} />
        {kind === 'text' ? (
          <TextInput label="Text" value={of} onChange={(event) => setOf(event.currentTarget.value)} />
        ) : (
          <NativeSelect
            label="of"
            value={of}
            data={['', ...(records.data ?? []).map((choice) => choice.text)]}
            onChange={(event) => setOf(event.currentTarget.value)}
          />
        )}
        <Button type="submit" size="xs" disabled={of === ''}>
          Make it
        </Button>
      </div>
    </form>
  );
}
