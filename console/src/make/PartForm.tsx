import { Button } from '@mantine/core';
import type { ReactNode } from 'react';
import { type MakeScreenAddress, renameTo } from '../address';
import type { WorkingFindingInfo } from '../api/schema';
import { Entry } from './Entry';
import { summaryOf } from './names';
import { type Part, titleOf } from './parts';
import type { Value } from './schema';
import { reset, useWork } from './work';

type Props = {
  screen: MakeScreenAddress;
  place: string;
  parts: Part[];
  value: { [key: string]: Value };
  implied: Record<string, Value>;
  /** What is shown with an item of a part, by its place. */
  aside: (place: string, value: Value) => ReactNode;
};

/** The parts of a page, record, source or app. One is open at a time; its form, its findings and its remedies stand in it. */
export function PartForm({ screen, place, parts, value, implied, aside }: Props) {
  const { findings } = useWork();
  const open = screen.part.split('/')[0] ?? '';
  const said = parts.filter((part) => value[part.key] !== undefined || part.key === open);
  const unsaid = parts.filter((part) => !said.includes(part));
  const show = (key: string) => renameTo({ ...screen, part: open === key ? '' : key });
  const whole = findings.filter((finding) => finding.place === place);
  return (
    <div className="parts">
      {whole.map((finding) => (
        <PartFinding key={`${finding.finding.code}${finding.finding.line}`} finding={finding} />
      ))}
      {said.map((part) => {
        const own = `${place}/${part.key}`;
        const wrong = findings.filter((finding) => finding.place === own || finding.place.startsWith(`${own}/`));
        return (
          <section key={part.key} className="part" data-open={part.key === open} id={`part-${part.key}`}>
            <h2>
              <button type="button" aria-expanded={part.key === open} onClick={() => show(part.key)}>
                <span>
                  {titleOf(part.key)}
                  {wrong.length > 0 && <span className="wrong"> {wrong.length} to mend</span>}
                </span>
                <span className="quiet">{part.key === open ? '' : summaryOf(value[part.key])}</span>
              </button>
            </h2>
            {part.key === open && (
              <div className="part-body">
                {part.schema.description && <p className="quiet">{part.schema.description}</p>}
                {wrong.map((finding) => (
                  <PartFinding
                    key={`${finding.finding.code}${finding.finding.line}:${finding.finding.column}`}
                    finding={finding}
                  />
                ))}
                <Entry
                  name={part.key}
                  place={own}
                  schema={part.schema}
                  value={value[part.key]}
                  {...(implied[part.key] === undefined ? {} : { implied: implied[part.key] as Value })}
                  aside={aside}
                />
                {value[part.key] !== undefined && <ResetButton place={own} name={titleOf(part.key)} />}
              </div>
            )}
          </section>
        );
      })}
      {unsaid.length > 0 && (
        <div className="unsaid">
          <h2>More that can be said</h2>
          <div className="filters">
            {unsaid.map((part) => (
              <button type="button" key={part.key} title={part.schema.description ?? ''} onClick={() => show(part.key)}>
                {titleOf(part.key)}
              </button>
            ))}
          </div>
        </div>
      )}
    </div>
  );
}

function ResetButton({ place, name }: { place: string; name: string }) {
  const { change } = useWork();
  return (
    <Button size="compact-xs" variant="default" onClick={() => change(reset(place))} title="As if the file had never said it">
      Reset {name.toLowerCase()}
    </Button>
  );
}

/** What is wrong at a place, and its remedy as one click where that is safe. */
export function PartFinding({ finding }: { finding: WorkingFindingInfo }) {
  const { change } = useWork();
  const { remedy } = finding;
  return (
    <div className="finding" data-severity={finding.finding.severity}>
      <p>
        <strong>{finding.finding.code}</strong> {finding.finding.message}
      </p>
      <p>{finding.finding.remedy}</p>
      {remedy !== null && (
        <Button size="compact-xs" onClick={() => change(remedy)}>
          {finding.remedyLabel}
        </Button>
      )}
    </div>
  );
}
