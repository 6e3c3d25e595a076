import { SegmentedControl, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Fragment } from 'react';
import { go, renameTo, type Screen } from '../address';
import { findingsQuery, pagesQuery, samplesQuery } from '../api/queries';
import type { FindingInfo, PageInfo, SampleInfo } from '../api/schema';
import { recordOf } from '../map/boxes';
import { FindingCard } from '../parts/FindingCard';
import { Go } from '../parts/Go';
import { grouped } from '../parts/grouped';
import { Heads } from '../parts/Heads';
import { Loaded } from '../parts/Loaded';
import { Scroll } from '../parts/Scroll';
import { Empty } from '../parts/States';
import { counted } from '../parts/words';
import { isAsked } from './find';
import { LinksHere } from './LinksHere';

type PagesAddress = Extract<Screen, { name: 'pages' }>;

/** More pages than these are first shown by their records: nobody reads a longer table. */
const mostUnfolded = 60;

/** Every page of the app with what leads to it, in one table; many of them folded by the records that they show. */
export function PagesScreen({ state, screen }: { state: string; screen: PagesAddress }) {
  const { find } = screen;
  const pages = useQuery(pagesQuery(state));
  const samples = useQuery(samplesQuery(state));
  const findings = useQuery(findingsQuery(state));
  const asked = (pages.data ?? []).filter((page) => isAsked(page, find));
  const by = screen.by ?? (asked.length > mostUnfolded ? 'record' : 'page');
  return (
    <>
      <div className="head">
        <div>
          <h1>Pages and their links</h1>
          <p className="line">
            {pages.data ? summary(pages.data) : ' '} <Go to={{ name: 'map', of: 'page', about: '', steps: 1 }}>See them drawn</Go>
          </p>
        </div>
        <div className="line">
          <SegmentedControl
            size="xs"
            aria-label="Shown by"
            value={by}
            data={[
              { value: 'page', label: 'Pages' },
              { value: 'record', label: 'Records' },
            ]}
            onChange={(value) => go({ name: 'pages', find, by: value === 'record' ? 'record' : 'page' })}
          />
          <TextInput
            label="Find a page"
            placeholder="a name, a path or a record"
            value={find}
            onChange={(typed) => renameTo({ ...screen, find: typed.currentTarget.value })}
            w={260}
          />
        </div>
      </div>
      <Loaded query={pages} what="the pages" rows={8}>
        {() =>
          asked.length === 0 ? (
            <Empty title={find ? 'No page is like that' : 'The app has no pages'}>
              {find && (
                <p>
                  Nothing of “{find}” stands in a page’s name, path or record.{' '}
                  <Go to={{ name: 'pages', find: '' }}>Show all pages</Go>
                </p>
              )}
            </Empty>
          ) : by === 'record' ? (
            <ByRecord pages={asked} samples={samples.data} findings={findings.data ?? []} screen={screen} />
          ) : (
            <PagesTable pages={asked} samples={samples.data} findings={findings.data ?? []} />
          )
        }
      </Loaded>
    </>
  );
}

type TableProps = { pages: PageInfo[]; samples: SampleInfo[] | undefined; findings: FindingInfo[] };

/** The pages of each record behind one line. The pages of one record are unfolded. */
function ByRecord({ pages, samples, findings, screen }: TableProps & { screen: PagesAddress }) {
  const wrong = new Set(findings.filter((finding) => finding.severity !== 'hint').map((finding) => finding.page));
  return (
    <>
      {[...grouped(pages, recordOf)].map(([record, own]) => {
        const isOpen = screen.open === record;
        const faulty = own.filter((page) => wrong.has(page.name)).length;
        const lonely = own.filter((page) => !page.inMenu && page.linkedFrom.length === 0).length;
        return (
          <section className="fold" key={record} aria-label={`Pages of ${record}`}>
            <h2>
              <Go
                to={{ name: 'pages', find: screen.find, by: 'record', ...(!isOpen && { open: record }) }}
                aria-expanded={isOpen}
              >
                {record}
              </Go>
            </h2>
            <span className="quiet">{own.map((page) => page.kind).join(', ')}</span>
            <span className="counts">
              {faulty > 0 && <span className="wrong">{counted(faulty, 'page')} with findings</span>}
              {lonely > 0 && <span className="wrong">{lonely} that nothing leads to</span>}
              <Go to={{ name: 'map', of: 'record', about: record, steps: 1 }} aria-label={`${record}, drawn`}>
                drawn
              </Go>
            </span>
            {isOpen && <PagesTable pages={own} samples={samples} findings={findings} />}
          </section>
        );
      })}
    </>
  );
}

function PagesTable({ pages, samples, findings }: TableProps) {
  return (
    <Scroll sheet label="All pages">
      <table className="plain stack">
        <Heads names={['Page', 'Path', 'Shows', 'Who links here, and what fills the path', 'An address now']} />
        <tbody>
          {pages.map((page) => {
            const own = findings.filter((finding) => finding.page === page.name);
            return (
              <Fragment key={page.name}>
                <tr>
                  <td>
                    <strong>{page.name}</strong>
                    <div className="quiet">
                      <Go to={{ name: 'findings', line: page.line }}>line {page.line}</Go>
                    </div>
                    <div className="quiet">
                      <Go
                        to={{ name: 'make', section: 'pages', about: page.name, part: '', at: null }}
                        aria-label={`Change ${page.name}`}
                      >
                        change
                      </Go>
                    </div>
                  </td>
                  <td data-label="Path">
                    <PathText path={page.path} />
                    <Parameters page={page} />
                  </td>
                  <td data-label="Shows">
                    {page.kind}
                    {page.record !== '' && ` of ${page.record}`}
                    {page.source !== '' && <div className="quiet">from {page.source}</div>}
                  </td>
                  <td data-label="Who links here">
                    <LinksHere page={page} />
                  </td>
                  <td data-label="An address now">
                    <Sample sample={samples?.find((sample) => sample.page === page.name)} />
                  </td>
                </tr>
                {own.length > 0 && (
                  <tr>
                    <td colSpan={5}>
                      {own.map((finding) => (
                        <FindingCard key={`${finding.code}:${finding.line}:${finding.column}`} finding={finding} withPlace />
                      ))}
                    </td>
                  </tr>
                )}
              </Fragment>
            );
          })}
        </tbody>
      </table>
    </Scroll>
  );
}

/** A path that may be broken before each of its segments, and nowhere else where that can be helped. */
function PathText({ path }: { path: string }) {
  return (
    <span className="mono">
      {path.split(/(?=\/)/).map((segment, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a segment is what stands at its place.
        <Fragment key={place}>
          <wbr />
          {segment}
        </Fragment>
      ))}
    </span>
  );
}

/** What a page reads from its address, and which field of the record that is. */
function Parameters({ page }: { page: PageInfo }) {
  return page.parameters.map((parameter) => (
    <div className="quiet" key={parameter.name} title={parameter.looks}>
      {parameter.name === parameter.field ? parameter.name : `${parameter.name} is ${parameter.field}`} ({parameter.type}
      {parameter.required ? '' : ', optional'})
    </div>
  ));
}

function Sample({ sample }: { sample: SampleInfo | undefined }) {
  if (sample === undefined) return <span className="quiet">…</span>;
  if (sample.address === null) return <span className="quiet">{sample.why}</span>;
  return (
    <>
      <Go className="mono" to={{ name: 'try', address: sample.address, outcome: null }}>
        {sample.address}
      </Go>
      {sample.calls && <Calls calls={sample.calls} />}
    </>
  );
}

/** How a program asks for the page: each line as it can be pasted. */
function Calls({ calls }: { calls: NonNullable<SampleInfo['calls']> }) {
  return (
    <details className="calls">
      <summary>Call it from a program</summary>
      <dl>
        <dt>Addresses</dt>
        <dd>
          <code>{calls.pattern}</code>
        </dd>
        <dt>Shell</dt>
        <dd>
          <code>{calls.curl}</code>
        </dd>
        <dt>TypeScript</dt>
        <dd>
          <code>{calls.typeScript}</code>
        </dd>
        <dt>C#</dt>
        <dd>
          <code>{calls.cSharp}</code>
        </dd>
      </dl>
    </details>
  );
}

function summary(pages: PageInfo[]): string {
  const lonely = pages.filter((page) => !page.inMenu && page.linkedFrom.length === 0).length;
  const links = pages.reduce((sum, page) => sum + page.links.length, 0);
  return `${counted(pages.length, 'page')}, ${counted(links, 'link')} between them${lonely > 0 ? `; ${lonely} that nothing leads to` : ''}.`;
}
