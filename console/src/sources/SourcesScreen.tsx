import { useQuery } from '@tanstack/react-query';
import { Fragment } from 'react';
import { sourcesQuery } from '../api/queries';
import type { SourceInfo, SourceTableInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Heads } from '../parts/Heads';
import { Loaded } from '../parts/Loaded';
import { Scroll } from '../parts/Scroll';
import { Empty } from '../parts/States';
import { counted } from '../parts/words';

/** How every source of the app is at this moment, and what it holds. */
export function SourcesScreen() {
  const sources = useQuery(sourcesQuery);
  return (
    <>
      <div className="head">
        <div>
          <h1>Sources</h1>
          <p>{sources.data ? summary(sources.data) : ' '}</p>
        </div>
        <Go to={{ name: 'query', source: '', query: '', values: {} }}>Try a query</Go>
      </div>
      <Loaded query={sources} what="the sources" rows={4}>
        {(all) =>
          all.length === 0 ? (
            <Empty title="The app has no sources" />
          ) : (
            <>
              <SourcesTable sources={all} />
              {all
                .filter((source) => source.tables.length > 0)
                .map((source) => (
                  <TablesOf key={source.name} source={source} />
                ))}
            </>
          )
        }
      </Loaded>
    </>
  );
}

function SourcesTable({ sources }: { sources: SourceInfo[] }) {
  return (
    <Scroll sheet label="All sources">
      <table className="plain stack">
        <Heads names={['Source', 'Where', 'Answers', 'Changes', 'Pages']} />
        <tbody>
          {sources.map((source) => (
            <Fragment key={source.name}>
              <tr>
                <td>
                  <strong>{source.name}</strong>
                  <div className="quiet">{source.engine}</div>
                </td>
                <td data-label="Where">
                  <span className="mono">{source.connection}</span>
                </td>
                <td data-label="Answers">
                  <span className="outcome" data-kind={source.reachable ? 'good' : 'trouble'}>
                    {source.reachable ? `in ${source.milliseconds} ms` : 'away'}
                  </span>
                </td>
                <td data-label="Changes">
                  {source.changes === null ? '–' : source.changes ? 'yes' : 'no'}
                  {source.readOnlyBecause !== null && <div className="quiet">{source.readOnlyBecause}</div>}
                </td>
                <td data-label="Pages">
                  {source.pages.length}
                  {source.waiting > 0 && <div className="quiet">{source.waiting} wait for it</div>}
                </td>
              </tr>
              {(source.trouble !== null || source.notes.length > 0) && (
                <tr>
                  <td colSpan={5}>
                    {source.trouble !== null && (
                      <div className="finding" data-severity="error">
                        <p>{source.trouble}</p>
                        {source.known && <p>What it held when it last answered is taken for what it holds.</p>}
                      </div>
                    )}
                    {source.notes.map((note) => (
                      <div className="finding" key={note}>
                        <p>{note}</p>
                      </div>
                    ))}
                  </td>
                </tr>
              )}
            </Fragment>
          ))}
        </tbody>
      </table>
    </Scroll>
  );
}

function TablesOf({ source }: { source: SourceInfo }) {
  return (
    <section aria-label={`What ${source.name} holds`}>
      <h2 className="below">What {source.name} holds</h2>
      <Scroll sheet label={`Tables of ${source.name}`}>
        <table className="plain stack">
          <Heads names={['Table', 'Key', 'Columns', 'Rows, about', 'Read as']} numbers={['Columns', 'Rows, about']} />
          <tbody>
            {source.tables.map((table) => (
              <tr key={table.name}>
                <td>
                  <Go to={{ name: 'table', source: source.name, table: table.name }}>
                    <strong>{table.name}</strong>
                  </Go>
                  {(table.kind !== 'table' || !table.lists) && <div className="quiet">{kindOf(table)}</div>}
                </td>
                <td data-label="Key">
                  {table.key.length === 0 ? (
                    <span className="quiet">none</span>
                  ) : (
                    <span className="mono">{table.key.join(', ')}</span>
                  )}
                </td>
                <td data-label="Columns" className="number">
                  {table.columns}
                </td>
                <td data-label="Rows, about" className="number">
                  {table.aboutRows === null ? '–' : table.aboutRows.toLocaleString('en')}
                </td>
                <td data-label="Read as">
                  {table.records.length === 0 ? <span className="quiet">no record</span> : table.records.join(', ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
    </section>
  );
}

function kindOf(table: SourceTableInfo): string {
  return table.lists ? table.kind : `${table.kind}, read one by one`;
}

function summary(sources: SourceInfo[]): string {
  const away = sources.filter((source) => !source.reachable).length;
  const waiting = sources.reduce((sum, source) => sum + source.waiting, 0);
  const all = away === 0 ? 'all of them answer' : `${counted(away, 'does', 'do')} not answer`;
  return `${counted(sources.length, 'source')}: ${all}${waiting > 0 ? `; ${counted(waiting, 'page waits', 'pages wait')} for one` : ''}.`;
}
