import { NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { go, type MakeScreenAddress, renameTo, type Section } from '../address';
import { choicesQuery, previewSamplesQuery, schemaQuery, valueQuery, workingQuery } from '../api/queries';
import type { SiteInfo, WorkingCopyInfo, WorkingPageInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { Empty } from '../parts/States';
import { ColumnCard } from './ColumnCard';
import { LinkFacts } from './LinkFacts';
import { NewPage } from './NewPage';
import { PageActions } from './PageActions';
import { PartForm } from './PartForm';
import { type Pointed, Preview } from './Preview';
import { kindOf, partsOf } from './parts';
import { partOf, pointedOf } from './pointing';
import { RecordRows } from './RecordRows';
import type { SchemaFile, Value } from './schema';
import { type Deed, step, stepsOf, useDeed, WorkContext } from './work';

/** Where pages are made: the form of one page, record or source beside the page itself, with real records. */
export function MakeScreen({ site, screen }: { site: SiteInfo; screen: MakeScreenAddress }) {
  const copy = useQuery(workingQuery);
  const schema = useQuery(schemaQuery);
  return (
    <Loaded query={copy} what="the working copy" rows={8}>
      {(copy) => (
        <Loaded query={schema} what="the schema" rows={8}>
          {(file) => <Made site={site} screen={screen} copy={copy} file={file as SchemaFile} />}
        </Loaded>
      )}
    </Loaded>
  );
}

type MadeProps = { site: SiteInfo; screen: MakeScreenAddress; copy: WorkingCopyInfo; file: SchemaFile };

function Made({ site, screen, copy, file }: MadeProps) {
  const deed = useDeed();
  const [trouble, setTrouble] = useState<string | null>(null);
  const act = (what: Deed, then?: (copy: WorkingCopyInfo) => void) => {
    setTrouble(null);
    deed.mutate(what, { onSuccess: (after) => then?.(after), onError: (error) => setTrouble(error.message) });
  };
  const work = {
    file,
    revision: copy.revision,
    findings: copy.findings,
    change: (...changes: Extract<Deed, { do: 'change' }>['changes']) => act({ do: 'change', changes }),
  };
  if (!copy.readable)
    return (
      <Empty level="h1" title="The text cannot be changed by forms as it is">
        <p>
          {copy.findings[0]?.finding.message ?? 'It is no YAML that can be read.'}{' '}
          <Go to={{ name: 'text', line: copy.findings[0]?.finding.line ?? null }}>Mend it in the text</Go>, and go on here.
        </p>
      </Empty>
    );
  return (
    <WorkContext.Provider value={work}>
      <div className="make-head">
        <Chooser screen={screen} copy={copy} />
      </div>
      {trouble !== null && (
        <p className="trouble sheet" role="alert">
          {trouble}
        </p>
      )}
      {screen.about === '' && screen.section !== 'app' ? (
        <NewPage copy={copy} act={act} />
      ) : (
        <Workplace site={site} screen={screen} copy={copy} file={file} act={act} />
      )}
    </WorkContext.Provider>
  );
}

/** Chooses what is made. */
function Chooser({ screen, copy }: { screen: MakeScreenAddress; copy: WorkingCopyInfo }) {
  const records = useQuery(choicesQuery(copy.revision, '/pages/x/list', false));
  const sources = useQuery(choicesQuery(copy.revision, '/records/x/source', false));
  const options = (section: Section, names: string[]) => names.map((name) => ({ value: `${section}/${name}`, label: name }));
  const chosen = screen.section === 'app' ? 'app/' : screen.about === '' ? '' : `${screen.section}/${screen.about}`;
  const choose = (value: string) => {
    const slash = value.indexOf('/');
    const section = (value === '' ? 'pages' : value.slice(0, slash)) as Section;
    go({ name: 'make', section, about: value.slice(slash + 1), part: '', at: section === 'pages' ? null : screen.at });
  };
  const pages = [
    ...new Set([
      ...copy.pages.map((page) => page.page.name),
      ...(screen.section === 'pages' && screen.about !== '' ? [screen.about] : []),
    ]),
  ];
  return (
    <>
      <h1>{screen.section === 'app' ? 'The app' : screen.about === '' ? 'Make pages' : screen.about}</h1>
      <NativeSelect
        size="xs"
        aria-label="What is made"
        value={chosen}
        data={[
          { value: '', label: 'New pages…' },
          { value: 'app/', label: 'The app as a whole' },
          { group: 'Pages', items: options('pages', pages) },
          {
            group: 'Records',
            items: options(
              'records',
              (records.data ?? []).map((choice) => choice.text),
            ),
          },
          {
            group: 'Sources',
            items: options(
              'sources',
              (sources.data ?? []).map((choice) => choice.text),
            ),
          },
        ]}
        onChange={(event) => choose(event.currentTarget.value)}
      />
    </>
  );
}

type WorkplaceProps = MadeProps & { act: (what: Deed, then?: (copy: WorkingCopyInfo) => void) => void };

function Workplace({ site, screen, copy, file, act }: WorkplaceProps) {
  const page = screen.section === 'pages' ? copy.pages.find((each) => each.page.name === screen.about) : undefined;
  const place = screen.section === 'app' ? '' : (page?.place ?? step(screen.section) + step(screen.about));
  const isOwn = page === undefined || page.place === `/pages${step(screen.about)}`;
  const value = useQuery(valueQuery(copy.revision, place));
  const shownPage = page ?? copy.pages.find((each) => screen.section === 'records' && each.page.record === screen.about);
  const samples = useQuery({
    ...previewSamplesQuery(copy.revision, shownPage?.page.name ?? ''),
    enabled: shownPage !== undefined,
  });
  const at = screen.at ?? ownAddress(copy, shownPage) ?? samples.data?.[0]?.address ?? null;
  const column = screen.part.startsWith('show/') ? screen.part.slice('show/'.length) : undefined;
  return (
    <Loaded query={value} what="what the file says" rows={8}>
      {(said) =>
        said.said && typeof said.value === 'object' && said.value !== null ? (
          <div className="make">
            <div className="sheet make-form">
              {page && column !== undefined && (
                <ColumnCard screen={screen} copy={copy} page={page} place={place} column={column} />
              )}
              {page && <PageActions screen={screen} page={page} isOwn={isOwn} act={act} />}
              <PartForm
                screen={screen}
                place={place}
                parts={partsOf(file, screen.section, kindOf(said.value as Record<string, Value>))}
                value={said.value as Record<string, Value>}
                implied={page ? { show: page.columns.map((column) => column.text) } : {}}
                aside={(where, link) =>
                  stepsOf(where).includes('links') && <LinkFacts copy={copy} page={page} at={at ?? '/'} link={link} />
                }
              />
              <p className="quiet">
                <Go to={{ name: 'text', line: page?.page.line ?? null }}>These lines in the text</Go>
              </p>
            </div>
            <div className="make-right">
              {screen.section === 'records' && <RecordRows revision={copy.revision} record={screen.about} />}
              <Preview
                site={site}
                copy={copy}
                page={shownPage?.page.name ?? ''}
                at={at}
                why={samples.data?.[0]?.why ?? null}
                outlined={page ? pointedOf(screen.part, page) : null}
                go={(to) => renameTo({ ...screen, at: to })}
                choose={(part: Pointed) => {
                  const key = partOf(part, page);
                  if (key === null) return;
                  renameTo({ ...screen, part: key });
                  requestAnimationFrame(() =>
                    document.getElementById(`part-${key.split('/')[0]}`)?.scrollIntoView({ block: 'nearest' }),
                  );
                }}
              />
            </div>
          </div>
        ) : (
          <Empty title={`The file has no ${screen.section.slice(0, -1)} “${screen.about}”`}>
            <p>
              It may have been renamed or removed.{' '}
              <Go to={{ name: 'make', section: 'pages', about: '', part: '', at: null }}>See what there is</Go>.
            </p>
          </Empty>
        )
      }
    </Loaded>
  );
}

/** The address of a page that needs no ID, without the prefix of the preview. */
function ownAddress(copy: WorkingCopyInfo, page: WorkingPageInfo | undefined): string | null {
  const own = page?.page.address;
  return own?.startsWith(copy.preview) ? own.slice(copy.preview.length) || '/' : page === undefined ? '/' : null;
}
