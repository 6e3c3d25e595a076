import { NativeSelect, SegmentedControl } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { go, type Screen } from '../address';
import { choicesQuery, workingQuery } from '../api/queries';
import type { PageInfo, SiteInfo, WorkingCopyInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { Scroll } from '../parts/Scroll';
import { Empty, Loading } from '../parts/States';
import { counted } from '../parts/words';
import { type Box, pageBoxes, passesOf, recordBoxes, recordOf } from './boxes';
import { neighboursOf } from './neighbours';

const Drawing = lazy(() => import('./Drawing'));

type MapAddress = Extract<Screen, { name: 'map' }>;

/** Which page leads to which, drawn about one page or record; what is broken, cannot be reached, or has no pages yet. */
export function MapScreen({ site, screen }: { site: SiteInfo; screen: MapAddress }) {
  const copy = useQuery(workingQuery);
  return (
    <Loaded query={copy} what="the pages" rows={8}>
      {(copy) => <Mapped copy={copy} home={site.home ?? ''} screen={screen} />}
    </Loaded>
  );
}

function Mapped({ copy, home, screen }: { copy: WorkingCopyInfo; home: string; screen: MapAddress }) {
  const pages = copy.pages.map((page) => page.page);
  const isOfRecords = screen.of === 'record';
  const boxes = isOfRecords ? recordBoxes(pages) : pageBoxes(pages);
  const atHome = pages.find((page) => page.name === home) ?? pages[0];
  const about = screen.about || (atHome === undefined ? '' : isOfRecords ? recordOf(atHome) : atHome.name);
  const drawn = neighboursOf(boxes, about, screen.steps);
  const wrong = new Set(copy.findings.flatMap(({ finding }) => finding.page ?? []));
  const faulty = isOfRecords ? new Set(pages.filter((page) => wrong.has(page.name)).map(recordOf)) : wrong;
  const page = pages.find((each) => each.name === about);
  if (boxes.length > 0 && !boxes.some((box) => box.name === about))
    return (
      <Empty level="h1" title={`There is no ${screen.of} “${about}”`}>
        <p>
          It may have been renamed. <Go to={{ ...screen, about: '' }}>See the map about home</Go>.
        </p>
      </Empty>
    );
  return (
    <>
      <div className="head">
        <div>
          <h1>Pages and where they lead</h1>
          <p>
            {counted(pages.length, 'page')}
            {isOfRecords && ` of ${counted(boxes.length, 'record')}`}. The drawing is about one of them;{' '}
            <Go to={{ name: 'pages', find: '' }}>all in a table</Go>.
          </p>
        </div>
        <div className="line">
          <SegmentedControl
            size="xs"
            aria-label="What is drawn"
            value={screen.of}
            data={[
              { value: 'page', label: 'Pages' },
              { value: 'record', label: 'Records' },
            ]}
            onChange={(value) => {
              const of = value === 'record' ? 'record' : 'page';
              const other = of === 'record' ? page && recordOf(page) : pages.find((each) => recordOf(each) === about)?.name;
              go({ ...screen, of, about: other ?? '' });
            }}
          />
          <NativeSelect
            size="xs"
            aria-label={`About the ${screen.of}`}
            value={about}
            data={boxes.map((each) => each.name)}
            onChange={(event) => go({ ...screen, about: event.currentTarget.value })}
          />
          <SegmentedControl
            size="xs"
            aria-label="How far"
            value={String(screen.steps)}
            data={[
              { value: '1', label: '1 step' },
              { value: '2', label: '2 steps' },
            ]}
            onChange={(value) => go({ ...screen, steps: Number(value) })}
          />
        </div>
      </div>
      <div className="map">
        <div>
          <Scroll sheet label="Drawing of the links">
            <Suspense fallback={<Loading what="the drawing" />}>
              <Drawing boxes={boxes} drawn={drawn} screen={{ ...screen, about }} faulty={faulty} />
            </Suspense>
          </Scroll>
          {drawn.left > 0 && <p className="quiet">and {drawn.left.toLocaleString('en')} more that are not drawn</p>}
        </div>
        <aside className="sheet" aria-label="In words">
          {isOfRecords ? (
            <RecordInWords record={about} pages={pages.filter((each) => recordOf(each) === about)} boxes={boxes} />
          ) : (
            page && <InWords page={page} />
          )}
          <ToLookAt copy={copy} pages={pages} />
        </aside>
      </div>
    </>
  );
}

/** What the drawing shows of its page, for those who do not see it. */
function InWords({ page }: { page: PageInfo }) {
  const lines = (links: PageInfo['links']) =>
    links.map((link, index) => (
      // biome-ignore lint/suspicious/noArrayIndexKey: a page may have the same link twice.
      <li key={index}>
        <Go to={{ name: 'map', of: 'page', about: link.page, steps: 1 }}>{link.page}</Go>
        {link.column !== null && ` on ${link.column}`}
        {link.passes.length > 0 && `: ${passesOf(link)}`}
      </li>
    ));
  return (
    <>
      <h2>
        <Go to={{ name: 'make', section: 'pages', about: page.name, part: '', at: null }}>{page.name}</Go>
      </h2>
      <p className="quiet">
        {page.kind} {page.record}, <span className="mono">{page.path}</span>
      </p>
      <h3>Leads to</h3>
      <ul>{page.links.length > 0 ? lines(page.links) : <li className="quiet">nothing</li>}</ul>
      <h3>Led to from</h3>
      <ul>
        {page.linkedFrom.length > 0 ? lines(page.linkedFrom) : <li className="quiet">{page.inMenu ? 'the menu' : 'nothing'}</li>}
      </ul>
    </>
  );
}

/** The pages of a record, and the records that they lead to and are led to from. */
function RecordInWords({ record, pages, boxes }: { record: string; pages: PageInfo[]; boxes: Box[] }) {
  const box = boxes.find((each) => each.name === record);
  const lines = (leads: Box['leadsTo']) =>
    leads.map((lead) => (
      <li key={lead.to}>
        <Go to={{ name: 'map', of: 'record', about: lead.to, steps: 1 }}>{lead.to}</Go>: {lead.label}
      </li>
    ));
  return (
    <>
      <h2>{record}</h2>
      <ul>
        {pages.map((page) => (
          <li key={page.name}>
            <Go to={{ name: 'map', of: 'page', about: page.name, steps: 1 }}>{page.name}</Go>{' '}
            <span className="quiet mono">{page.path}</span>
          </li>
        ))}
      </ul>
      <h3>Leads to</h3>
      <ul>{box && box.leadsTo.length > 0 ? lines(box.leadsTo) : <li className="quiet">nothing</li>}</ul>
      <h3>Led to from</h3>
      <ul>{box && box.ledFrom.length > 0 ? lines(box.ledFrom) : <li className="quiet">nothing</li>}</ul>
    </>
  );
}

/** What is broken, cannot be reached, has no way back, or has no pages yet. */
function ToLookAt({ copy, pages }: { copy: WorkingCopyInfo; pages: PageInfo[] }) {
  const records = useQuery(choicesQuery(copy.revision, '/pages/x/list', false));
  const shown = new Set(pages.map((page) => page.record));
  const bare = (records.data ?? []).filter((record) => !shown.has(record.text));
  if (copy.findings.length === 0 && bare.length === 0) return null;
  return (
    <>
      <h2 className="below">To look at</h2>
      <ul>
        {copy.findings.slice(0, 20).map(({ finding }) => (
          <li key={`${finding.code}${finding.line}:${finding.column}`}>
            <Go to={{ name: 'text', line: finding.line }}>{finding.code}</Go> {finding.message}
          </li>
        ))}
        {bare.map((record) => (
          <li key={record.text}>
            {record.text} has no pages: <Go to={{ name: 'make', section: 'pages', about: '', part: '', at: null }}>make them</Go>
          </li>
        ))}
      </ul>
    </>
  );
}
