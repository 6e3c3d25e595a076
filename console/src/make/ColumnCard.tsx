import { Button, NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { go, type MakeScreenAddress, renameTo } from '../address';
import { choicesQuery, valueQuery } from '../api/queries';
import type { WorkingCopyInfo, WorkingPageInfo } from '../api/schema';
import { addItem, reset, set, step, useWork } from './work';

type Props = { screen: MakeScreenAddress; copy: WorkingCopyInfo; page: WorkingPageInfo; place: string; column: string };

/** What can be done to a field that was pointed at: lead somewhere from it, say how it looks, take it off the page. */
export function ColumnCard({ screen, copy, page, place, column }: Props) {
  const { change } = useWork();
  const pages = useQuery(choicesQuery(copy.revision, `${place}/links/0/to`, false));
  const label = page.columns.find((each) => each.text === column)?.detail ?? column;
  const link = page.page.links.find((each) => each.column === column);
  const shown = page.columns.map((each) => each.text);
  const lead = (to: string) => {
    change(addItem(`${place}/links`, { to, column }));
    renameTo({ ...screen, part: 'links' });
  };
  return (
    <section className="column-card" aria-label={`The field ${column}`}>
      <h2>
        {label} <span className="mono quiet">{column}</span>
      </h2>
      {link && (
        <p>
          Leads to <span className="mono">{link.page}</span>
          {link.passes.length > 0 && `: ${link.passes.map((pass) => `${pass.parameter} ← ${pass.field}`).join(', ')}`}
          {link.reason === 'written' ? '' : ', by itself'}
        </p>
      )}
      <div className="line">
        <NativeSelect
          size="xs"
          aria-label={`Lead from ${column} to`}
          value=""
          data={[
            { value: '', label: link ? 'Lead elsewhere…' : 'Lead from here to…' },
            ...(pages.data ?? []).map((each) => ({ value: each.text, label: `${each.text}, ${each.detail}` })),
          ]}
          onChange={(event) => event.currentTarget.value !== '' && lead(event.currentTarget.value)}
        />
        {link?.reason === 'written' && (
          <Button size="compact-xs" variant="default" onClick={() => renameTo({ ...screen, part: 'links' })}>
            Change the link
          </Button>
        )}
        {!column.includes('.') && (
          <Button
            size="compact-xs"
            variant="default"
            onClick={() => go({ name: 'make', section: 'records', about: page.page.record, part: 'fields', at: screen.at })}
          >
            How it looks
          </Button>
        )}
        <Button
          size="compact-xs"
          variant="default"
          onClick={() => {
            change(
              set(
                `${place}/show`,
                shown.filter((each) => each !== column),
              ),
            );
            renameTo({ ...screen, part: 'show' });
          }}
        >
          Take it off the page
        </Button>
        {page.page.links.some((each) => each.column === column && each.reason === 'written') && (
          <RemoveLink place={place} column={column} copy={copy} />
        )}
      </div>
    </section>
  );
}

/** Removes the written link that stands on a field. */
function RemoveLink({ place, column, copy }: { place: string; column: string; copy: WorkingCopyInfo }) {
  const { change } = useWork();
  const links = useQuery(valueQuery(copy.revision, `${place}/links`));
  const written = (Array.isArray(links.data?.value) ? links.data.value : []) as { column?: string }[];
  const index = written.findIndex((link) => link.column === column);
  return index < 0 ? null : (
    <Button size="compact-xs" variant="default" onClick={() => change(reset(`${place}/links${step(index)}`))}>
      Remove the link
    </Button>
  );
}
