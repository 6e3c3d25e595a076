import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { answered, api } from '../api/client';
import { casesQuery } from '../api/queries';
import type { IdCaseInfo, SiteInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { OutcomeMark } from '../parts/OutcomeMark';
import { Scroll } from '../parts/Scroll';
import { Empty } from '../parts/States';
import { counted } from '../parts/words';

type Props = { state: string; site: SiteInfo; on: 'preview' | 'live' };

const kinds = ['right', 'missing', 'malformed', 'not-canonical', 'unknown', 'twice'];

/** The cases of a board: only the preview can show a list as if it had no records. */
const kindsOf = { live: kinds, preview: [...kinds, 'empty'] };

/** All pages and all kinds of IDs: the answer that is declared, and the one that came when it was tried. */
export function CasesScreen({ site, on }: Props) {
  const cases = useQuery(casesQuery(site.workingRevision * 1000 + site.revision, null));
  return (
    <>
      <div className="head">
        <div>
          <h1>Right and wrong IDs</h1>
          <p>
            Each page with each kind of ID, against{' '}
            {on === 'live' ? (
              <>
                what is served. <Go to={{ name: 'cases', on: 'preview' }}>Try the working copy instead</Go>
              </>
            ) : (
              <>
                the working copy. <Go to={{ name: 'cases', on: 'live' }}>Try what is served instead</Go>
              </>
            )}
          </p>
        </div>
      </div>
      <Loaded query={cases} what="the cases" rows={10}>
        {(all) =>
          all.length === 0 ? (
            <Empty title="There is no page that could be tried" />
          ) : (
            <Board key={on} cases={all.filter((one) => kindsOf[on].includes(one.case))} on={on} />
          )
        }
      </Loaded>
    </>
  );
}

type Came = { outcome: string; status: number };

function Board({ cases, on }: { cases: IdCaseInfo[]; on: 'preview' | 'live' }) {
  const [came, setCame] = useState<Record<string, Came>>({});
  const [left, setLeft] = useState(0);
  const stopped = useRef(false);
  const keyOf = (one: IdCaseInfo) => `${one.page} ${one.case} ${one.parameter} ${one.address}`;
  const run = async (chosen: IdCaseInfo[]) => {
    stopped.current = false;
    for (const [index, one] of chosen.entries()) {
      if (stopped.current) break;
      setLeft(chosen.length - index);
      const body = { target: one.address, method: null, accept: null };
      const trace = await answered(
        on === 'live' ? api.POST('/api/traces', { body }) : api.POST('/api/working-copy/traces', { body }),
      );
      setCame((before) => ({ ...before, [keyOf(one)]: { outcome: trace.outcome ?? 'left', status: trace.status } }));
    }
    setLeft(0);
  };
  const pages = [...new Set(cases.map((one) => one.page))];
  const tried = cases.filter((one) => came[keyOf(one)] !== undefined);
  const wrong = tried.filter((one) => one.expected !== null && came[keyOf(one)]?.outcome !== one.expected);
  return (
    <>
      <div className="line">
        {left > 0 ? (
          <Button
            size="xs"
            variant="default"
            onClick={() => {
              stopped.current = true;
            }}
          >
            Stop
          </Button>
        ) : (
          <Button size="xs" onClick={() => void run(cases)}>
            Try all {cases.length}
          </Button>
        )}
        <p role="status">
          {left > 0 ? `${counted(left, 'address', 'addresses')} to go. ` : ''}
          {tried.length > 0 &&
            (wrong.length === 0
              ? `${tried.length} tried, each as declared.`
              : `${wrong.length} of ${tried.length} not as declared.`)}
        </p>
      </div>
      <Scroll sheet label="Pages and IDs">
        <table className="plain cases">
          <thead>
            <tr>
              <th scope="col">Page</th>
              {kindsOf[on].map((kind) => (
                <th key={kind} scope="col">
                  {kind}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {pages.map((page) => (
              <tr key={page}>
                <th scope="row">
                  <Go to={{ name: 'make', section: 'pages', about: page, part: 'ids', at: null }}>{page}</Go>
                </th>
                {kindsOf[on].map((kind) => (
                  <td key={kind}>
                    {cases
                      .filter((one) => one.page === page && one.case === kind)
                      .map((one) => (
                        <Case key={keyOf(one)} one={one} came={came[keyOf(one)] ?? null} />
                      ))}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </>
  );
}

function Case({ one, came }: { one: IdCaseInfo; came: Came | null }) {
  const isWrong = came !== null && one.expected !== null && came.outcome !== one.expected;
  return (
    <span className="case">
      <Go to={{ name: 'make', section: 'pages', about: one.page, part: 'ids', at: one.address }} title={one.address}>
        {one.parameter ?? unnamed(one)}
      </Go>{' '}
      {came === null ? (
        <span className="quiet">{one.expected ?? 'by the data'}</span>
      ) : (
        <>
          <OutcomeMark outcome={came.outcome} />
          {isWrong && <span className="wrong"> declared {one.expected}</span>}
        </>
      )}
    </span>
  );
}

/** What a case is called that is about no parameter. */
function unnamed(one: IdCaseInfo): string {
  if (one.case === 'empty') return 'no records';
  return one.expected === 'found' ? 'first record' : 'the page';
}
