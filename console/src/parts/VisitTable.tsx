import type { VisitInfo } from '../api/schema';
import { Go } from './Go';
import { Heads } from './Heads';
import { OutcomeMark } from './OutcomeMark';
import { Scroll } from './Scroll';
import { clock, duration } from './time';

/** Visits, each leading to its trace. */
export function VisitTable({ visits, label }: { visits: VisitInfo[]; label: string }) {
  return (
    <Scroll sheet label={label}>
      <table className="plain stack">
        <Heads names={['Visit', 'Time', 'Address', 'Page', 'Outcome', 'Status', 'Took']} numbers={['Status', 'Took']} />
        <tbody>
          {visits.map((visit) => (
            <tr key={visit.number}>
              <td>
                <Go to={{ name: 'visit', number: visit.number }}>{visit.number}</Go>
              </td>
              <td data-label="Time">{clock(visit.at)}</td>
              <td data-label="Address" className="mono">
                {visit.method === 'GET' ? '' : `${visit.method} `}
                {visit.target}
              </td>
              <td data-label="Page">{visit.page ?? <span className="quiet">none</span>}</td>
              <td data-label="Outcome">
                <OutcomeMark outcome={visit.outcome} />
              </td>
              <td data-label="Status" className="number">
                {visit.status === 0 ? '' : visit.status}
              </td>
              <td data-label="Took" className="number">
                {duration(visit.microseconds)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scroll>
  );
}
