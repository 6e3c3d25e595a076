import { Button, SegmentedControl } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { differenceQuery, versionQuery, versionsQuery, workingQuery } from '../api/queries';
import type { MergePartInfo, SiteInfo, WorkingCopyInfo, WorkingDifferenceInfo } from '../api/schema';
import { type Deed, useDeed } from '../make/work';
import { FindingCard } from '../parts/FindingCard';
import { Go } from '../parts/Go';
import { Heads } from '../parts/Heads';
import { Loaded } from '../parts/Loaded';
import { Scroll } from '../parts/Scroll';
import { Empty } from '../parts/States';
import { dayAndTime } from '../parts/time';
import { counted } from '../parts/words';
import { Difference } from './Difference';

/** `version` is the earlier version that is compared. */
type Props = { site: SiteInfo; version: string | null };

/** What saving would do, and saving itself; merging with a file that was changed meanwhile; earlier versions. */
export function SaveScreen({ site, version }: Props) {
  const copy = useQuery(workingQuery);
  return (
    <Loaded query={copy} what="the working copy" rows={8}>
      {(copy) => <Compared site={site} version={version} copy={copy} />}
    </Loaded>
  );
}

function Compared({ site, version, copy }: Props & { copy: WorkingCopyInfo }) {
  const difference = useQuery(differenceQuery(copy.revision, site.revision));
  const deed = useDeed();
  const [saved, setSaved] = useState<string | null>(null);
  const act = (what: Deed) => deed.mutate(what, { onSuccess: (after) => setSaved(what.do === 'save' ? after.version : null) });
  const wrong = copy.findings.filter((finding) => finding.finding.severity !== 'hint');
  return (
    <>
      <div className="head">
        <div>
          <h1>Compare and save</h1>
          <p>
            <span className="mono">{copy.file}</span>
            {copy.done > 0 && `, ${counted(copy.done, 'step')}: ${copy.steps.slice(0, copy.done).slice(-3).join('; ')}`}
          </p>
        </div>
        <div className="line">
          {copy.changed && (
            <Button variant="default" size="xs" onClick={() => act({ do: 'discard' })}>
              Drop the changes
            </Button>
          )}
          {difference.data && difference.data.patch !== '' && (
            <Button
              component="a"
              variant="default"
              size="xs"
              download={`${copy.file.split('/').at(-1)}.patch`}
              href={`data:text/x-patch;charset=utf-8,${encodeURIComponent(difference.data.patch)}`}
            >
              Download a patch
            </Button>
          )}
          <Button
            size="xs"
            variant={copy.serves ? 'filled' : 'default'}
            disabled={!copy.changed || copy.diskDiffers || copy.obstacle !== null}
            loading={deed.isPending}
            onClick={() => act({ do: 'save', version: copy.version })}
          >
            {copy.serves ? 'Save' : 'Save, though it makes no site'}
          </Button>
        </div>
      </div>
      {deed.error !== null && (
        <p className="trouble" role="alert">
          {deed.error.message}
        </p>
      )}
      {copy.obstacle !== null && (
        <p className="trouble">{copy.obstacle} Download a patch, and apply it where the file is kept.</p>
      )}
      {copy.diskGone && <p className="trouble">The file is not there any more. To save writes it anew, as it stands here.</p>}
      {saved === copy.version && !copy.changed && (
        <p className="sheet saved" role="status">
          Saved. {copy.serves ? 'The service takes it up now.' : 'The last good version is still served.'}{' '}
          <Go to={{ name: 'pages', find: '' }}>See the pages</Go>
        </p>
      )}
      <Loaded query={difference} what="what differs">
        {(difference) => (
          <>
            {copy.diskDiffers && <Merge parts={difference.merge} act={act} />}
            <What copy={copy} difference={difference} />
            {wrong.length > 0 && (
              <section className="sheet trial">
                <h2>What check says</h2>
                {wrong.map(({ finding }) => (
                  <FindingCard key={`${finding.code}:${finding.line}:${finding.column}`} finding={finding} withPlace={false} />
                ))}
              </section>
            )}
          </>
        )}
      </Loaded>
      <Versions site={site} copy={copy} version={version} act={act} />
    </>
  );
}

function What({ copy, difference }: { copy: WorkingCopyInfo; difference: WorkingDifferenceInfo }) {
  if (difference.lines.length === 0 && difference.texts.length === 0)
    return (
      <Empty title="Nothing differs from the file">
        <p>
          <Go to={{ name: 'make', section: 'pages', about: '', part: '', at: null }}>Make something</Go>, or change the{' '}
          <Go to={{ name: 'text', line: null }}>text</Go>.
        </p>
      </Empty>
    );
  return (
    <section className="sheet trial" aria-label="What differs">
      <h2>{counted(difference.lines.length, 'line differs', 'lines differ')}</h2>
      {difference.lost.length > 0 && (
        <div className="finding" data-severity="warning">
          <p>
            {counted(difference.lost.length, 'path')} served now would be no page’s any more:{' '}
            <span className="mono">{difference.lost.join(', ')}</span>
          </p>
          <p>Keep an address by naming it as a former one: “Former addresses” of the page.</p>
        </div>
      )}
      {difference.texts.map((text) => (
        <Difference key={text.file} file={text.file} lines={text.lines} />
      ))}
      <Difference file={copy.file} lines={difference.lines} />
    </section>
  );
}

/** The file was changed by somebody else: what both sides did, and whose lines are taken where they disagree. */
function Merge({ parts, act }: { parts: MergePartInfo[]; act: (deed: Deed) => void }) {
  const conflicts = parts.filter((part) => part.conflict);
  const [mine, setMine] = useState<Record<number, boolean>>({});
  const chosen = conflicts.map((part) => mine[part.line]);
  return (
    <section className="sheet trial" aria-label="Merge">
      <h2>The file was changed on the disk meanwhile</h2>
      <p>
        {conflicts.length === 0
          ? 'The two changes are about different lines, and can be merged as they are.'
          : `${counted(conflicts.length, 'place was', 'places were')} changed in both. Choose for each whose lines are taken.`}
      </p>
      {conflicts.map((part) => (
        <figure className="difference" key={part.line}>
          <figcaption className="quiet">From line {part.line}</figcaption>
          <SegmentedControl
            size="xs"
            aria-label={`Whose lines are taken from line ${part.line}`}
            value={mine[part.line] === undefined ? '' : mine[part.line] ? 'mine' : 'disk'}
            data={[
              { value: 'mine', label: 'Mine' },
              { value: 'disk', label: 'The file’s' },
            ]}
            onChange={(value) => setMine({ ...mine, [part.line]: value === 'mine' })}
          />
          <div className="sides">
            <pre>{part.mine.join('\n')}</pre>
            <pre>{part.disk.join('\n')}</pre>
          </div>
        </figure>
      ))}
      <Button
        size="xs"
        disabled={chosen.some((one) => one === undefined)}
        onClick={() => act({ do: 'merge', takeMine: chosen.map((one) => one === true) })}
      >
        Merge
      </Button>
    </section>
  );
}

function Versions({ site, copy, version, act }: Props & { copy: WorkingCopyInfo; act: (deed: Deed) => void }) {
  const versions = useQuery(versionsQuery(site.revision));
  if (versions.data === undefined || versions.data.length === 0) return null;
  return (
    <section aria-label="Earlier versions">
      <h2 className="below">Earlier versions</h2>
      <p className="quiet">Whoever saved them, as this service saw them. To bring one back changes the working copy only.</p>
      {version !== null && !versions.data.some((one) => one.version === version) && (
        <p className="trouble">That version is not kept any more.</p>
      )}
      <table className="plain sheet stack">
        <Heads names={['First seen', 'Version', 'Compared with the working copy']} />
        <tbody>
          {versions.data.map((one) => (
            <tr key={`${one.version}${one.at}`}>
              <td data-label="First seen">{dayAndTime(one.at)}</td>
              <td data-label="Version">
                <span className="mono">{one.version.slice(0, 12)}</span>
                {one.present && <div className="quiet">the file as it is</div>}
              </td>
              <td>
                {version === one.version ? (
                  <OneVersion copy={copy} version={one.version} act={act} />
                ) : (
                  <Go to={{ name: 'save', version: one.version }} aria-label={`Compare ${one.version.slice(0, 12)}`}>
                    Compare
                  </Go>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** What bringing a version back would change, and the version as a whole. */
function OneVersion({ copy, version, act }: { copy: WorkingCopyInfo; version: string; act: (deed: Deed) => void }) {
  const found = useQuery(versionQuery(copy.revision, version));
  return (
    <Loaded query={found} what="the version">
      {(found) => (
        <>
          {found.lines.length === 0 ? (
            <p>The working copy is this version.</p>
          ) : (
            <>
              <Button size="compact-xs" variant="default" onClick={() => act({ do: 'bring-back', version })}>
                Bring it back
              </Button>
              <Difference file={`What would change: ${counted(found.lines.length, 'line')}`} lines={found.lines} />
            </>
          )}
          <details>
            <summary>The whole of it</summary>
            <Scroll label="The whole version">
              <pre className="mono">{found.text}</pre>
            </Scroll>
          </details>
        </>
      )}
    </Loaded>
  );
}
