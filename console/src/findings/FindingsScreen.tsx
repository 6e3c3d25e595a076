import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { appFileQuery, findingsQuery } from '../api/queries';
import type { FindingInfo, SiteInfo } from '../api/schema';
import { FindingCard } from '../parts/FindingCard';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { Empty } from '../parts/States';
import { counted } from '../parts/words';
import { byLine, splitAt } from './lines';
import { useProved } from './useProved';

/** The app file's text with every finding at its place. */
export function FindingsScreen({ state, site, line }: { state: string; site: SiteInfo; line: number | null }) {
  const findings = useQuery(findingsQuery(state));
  const file = useQuery(appFileQuery(state));
  const proved = useProved(site.file);
  return (
    <>
      <div className="head">
        <div>
          <h1>Findings</h1>
          <p>
            {findings.data ? summary(findings.data, site) : ' '}
            {proved.length > 0 && ` ${counted(proved.length, 'finding')} of the last sweep and probe.`}{' '}
            <Go to={{ name: 'proofs' }}>Prove all records and answers</Go>
          </p>
        </div>
      </div>
      <Loaded query={findings} what="the findings">
        {(checked) => {
          const all = [...checked, ...proved];
          return (
            <>
              {all.length > 0 && (
                <nav className="filters" aria-label="All findings">
                  {all.map((finding) => (
                    <Go key={keyOf(finding)} to={{ name: 'findings', line: finding.line }} aria-current={finding.line === line}>
                      {finding.code}, line {finding.line}
                    </Go>
                  ))}
                </nav>
              )}
              <Loaded query={file} what="the app file" rows={12}>
                {(read) =>
                  read.text === null ? (
                    <Empty title={`${read.file} cannot be read`}>
                      {all.map((finding) => (
                        <FindingCard key={keyOf(finding)} finding={finding} withPlace={false} />
                      ))}
                    </Empty>
                  ) : (
                    <AppFileText text={read.text} findings={all} chosen={line} name={read.file} />
                  )
                }
              </Loaded>
            </>
          );
        }}
      </Loaded>
    </>
  );
}

type TextProps = { text: string; findings: FindingInfo[]; chosen: number | null; name: string };

function AppFileText({ text, findings, chosen, name }: TextProps) {
  const at = byLine(findings);
  const mark = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (chosen !== null) mark.current?.scrollIntoView?.({ block: 'center' });
  }, [chosen]);
  return (
    <section aria-label={name}>
      <ol className="file sheet">
        {text.split(/\r\n|\n|\r/).map((written, place) => {
          const number = place + 1;
          const here = at.get(number) ?? [];
          return (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: a line is what stands at its number.
              key={place}
              ref={number === chosen ? mark : null}
              data-severity={['error', 'warning', 'hint'].find((word) => here.some((finding) => finding.severity === word))}
              data-chosen={number === chosen ? 'yes' : undefined}
              aria-current={number === chosen ? 'true' : undefined}
            >
              <span className="text">
                <Marked text={written} finding={here[0]} />
              </span>
              {here.map((finding) => (
                <FindingCard key={keyOf(finding)} finding={finding} withPlace={false} />
              ))}
            </li>
          );
        })}
      </ol>
    </section>
  );
}

/** A line's text; the words that a finding is about stand out. */
function Marked({ text, finding }: { text: string; finding: FindingInfo | undefined }) {
  if (finding === undefined) return text;
  const [before, marked, after] = splitAt(text, finding.column, finding.found);
  return (
    <>
      {before}
      <mark>{marked}</mark>
      {after}
    </>
  );
}

function summary(findings: FindingInfo[], site: SiteInfo): string {
  if (findings.length === 0)
    return `Nothing is wrong with ${site.file}, as far as anybody can tell without visiting every record.`;
  const counts = ['error', 'warning', 'hint'].map((word) =>
    counted(findings.filter((finding) => finding.severity === word).length, word),
  );
  return `${counts[0]}, ${counts[1]} and ${counts[2]} in ${site.file}.`;
}

function keyOf(finding: FindingInfo): string {
  return `${finding.code}:${finding.line}:${finding.column}:${finding.message}`;
}
