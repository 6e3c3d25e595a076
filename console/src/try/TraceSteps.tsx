import type { ReactNode } from 'react';
import type { CandidateInfo, ParameterTrace, QueryTrace, TraceInfo } from '../api/schema';
import { Heads } from '../parts/Heads';
import { OutcomeMark } from '../parts/OutcomeMark';
import { Scroll } from '../parts/Scroll';
import { duration } from '../parts/time';
import { counted } from '../parts/words';

/** The five steps of a visit, in their only order, with what each of them found. */
export function TraceSteps({ trace }: { trace: TraceInfo }) {
  return (
    <ol className="steps">
      <Step trace={trace} step="match" title="Match: which page">
        <Candidates trace={trace} />
      </Step>
      <Step trace={trace} step="parse" title="Parse: which ID">
        <Parameters parameters={trace.parameters} outcome={trace.outcome} />
        {trace.ignored.length > 0 && <p className="quiet">Ignored, as no parameter has that name: {trace.ignored.join(', ')}</p>}
      </Step>
      <Step trace={trace} step="load" title="Load: which record">
        {trace.queries.map((query, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a visit's queries never change.
          <Query key={place} query={query} number={place + 1} />
        ))}
      </Step>
      <Step trace={trace} step="decide" title="Decide: the outcome" reached>
        <OutcomeMark outcome={trace.outcome} />
        {trace.why !== null && <p className="quiet">{trace.why}</p>}
      </Step>
      <Step trace={trace} step="answer" title="Answer" reached>
        {trace.status === 0 ? 'none: the visitor had left' : `Status ${trace.status}`}
        {trace.location !== null && (
          <>
            , to <span className="mono">{trace.location}</span>
          </>
        )}
        <p className="quiet">{duration(trace.microseconds)} in all</p>
      </Step>
    </ol>
  );
}

type StepProps = { trace: TraceInfo; step: string; title: string; reached?: boolean; children: ReactNode };

/** @param reached Whether every visit comes to this step, whatever it measured. */
function Step({ trace, step, title, reached = false, children }: StepProps) {
  const timed = trace.steps.find((timing) => timing.step === step);
  const came = reached || timed !== undefined;
  return (
    <li data-reached={came ? 'yes' : 'no'} data-step={step}>
      <div className="step-head">
        <h3 className="quiet">{title}</h3>
        <span className="quiet">{timed ? duration(timed.microseconds) : came ? '' : 'not reached'}</span>
      </div>
      {came && children}
    </li>
  );
}

/** How many of the pages that do not take an address are shown at once: the first ones came nearest. */
const nearest = 2;

function Candidates({ trace }: { trace: TraceInfo }) {
  const taking = trace.candidates.filter((candidate) => candidate.won);
  const others = trace.candidates.filter((candidate) => !candidate.won);
  if (trace.candidates.length === 0) return <p className="quiet">No page has a path like this.</p>;
  return (
    <>
      <CandidateList candidates={[...taking, ...others.slice(0, nearest)]} />
      {others.length > nearest && (
        <details>
          <summary>{counted(others.length - nearest, 'more page does', 'more pages do')} not take it</summary>
          <CandidateList candidates={others.slice(nearest)} />
        </details>
      )}
    </>
  );
}

function CandidateList({ candidates }: { candidates: CandidateInfo[] }) {
  return (
    <ul className="bare">
      {candidates.map((candidate) => (
        <li key={`${candidate.page} ${candidate.path}`}>
          {candidate.won ? <strong>{candidate.page}</strong> : candidate.page} <span className="mono">{candidate.path}</span>{' '}
          <span className="quiet">
            {candidate.won ? 'takes it' : 'no'}: {candidate.reason}
          </span>
        </li>
      ))}
    </ul>
  );
}

function Parameters({ parameters, outcome }: { parameters: ParameterTrace[]; outcome: string | null }) {
  if (parameters.length === 0) return <p className="quiet">This page reads nothing from its address.</p>;
  return (
    <table className="plain">
      <Heads names={['Parameter', 'As it stands', 'As it is read']} />
      <tbody>
        {parameters.map((parameter) => (
          <tr key={parameter.name}>
            <td>{parameter.name}</td>
            <td className="mono">{parameter.raw === null ? <span className="quiet">nothing</span> : parameter.raw}</td>
            <td>{reading(parameter, outcome)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What a visitor can ask of every list, and what an address of a record says of the list it comes from. */
const controls: Record<string, string> = {
  find: 'what the list is searched for',
  order: 'the order asked for',
  size: 'the number of rows asked for',
  after: 'a place in the list',
  before: 'a place in the list',
};

function reading(parameter: ParameterTrace, outcome: string | null): ReactNode {
  if (parameter.fault !== null) return `malformed: ${parameter.fault}`;
  if (parameter.value === null) return controls[parameter.name] ?? (outcome === 'listed' ? 'left out' : 'missing');
  return (
    <>
      {parameter.type} <span className="mono">{parameter.value}</span>
      {!parameter.canonical && ', spelled otherwise'}
    </>
  );
}

function Query({ query, number }: { query: QueryTrace; number: number }) {
  return (
    <>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a long query is scrolled with the keyboard. */}
      <pre className="query mono" tabIndex={0}>
        {query.text}
      </pre>
      <p className="quiet">
        {counted(query.rowCount, 'row')} in {duration(query.microseconds)}
        {query.rowCount > query.rows.length && query.rows.length > 0 && `, of which the first ${query.rows.length}:`}
      </p>
      {query.rows.length > 0 && (
        <Scroll label={`The first rows of query ${number}`}>
          <table className="plain">
            <thead>
              <tr>
                {query.columns.map((column, place) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: one column can be read twice, as two types.
                  <th scope="col" key={place}>
                    {column}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {query.rows.map((row, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a visit's rows never change.
                <tr key={place}>
                  {row.map((value, column) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: a visit's cells never change.
                    <td className="mono" key={column}>
                      {value ?? <span className="quiet">empty</span>}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </Scroll>
      )}
    </>
  );
}
