import { useQuery } from '@tanstack/react-query';
import { answered, api } from '../api/client';
import type { RowAddressInfo, TableInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Heads } from '../parts/Heads';
import { Loaded } from '../parts/Loaded';
import { RowsTable } from '../parts/RowsTable';
import { Scroll } from '../parts/Scroll';
import { Empty } from '../parts/States';
import { counted } from '../parts/words';

type Props = { state: string; source: string; table: string };

/** A table of a source: its columns, keys and indexes, the pages that show it, and its first rows, each opened on any page. */
export function TableScreen({ state, source, table }: Props) {
  const info = useQuery({
    queryKey: ['table', state, source, table],
    queryFn: () => answered(api.GET('/api/table', { params: { query: { source, table } } })),
    retry: false,
  });
  if (info.error !== null)
    return (
      <Empty level="h1" title="The table cannot be shown">
        <p role="alert">{info.error.message}</p>
        <p>
          <Go to={{ name: 'sources' }}>See the sources</Go>
        </p>
      </Empty>
    );
  return (
    <Loaded query={info} what={`the table ${table}`} rows={8}>
      {(info) => (
        <>
          <div className="head">
            <div>
              <h1>{info.name}</h1>
              <p>
                {info.kind} of <Go to={{ name: 'sources' }}>{info.source}</Go>, {counted(info.columns.length, 'column')}
                {info.aboutRows !== null && `, about ${counted(info.aboutRows, 'row')}`}
              </p>
            </div>
          </div>
          <Columns info={info} />
          <ShownBy info={info} />
          <h2 className="below">First rows</h2>
          {info.trouble === null ? <Rows info={info} /> : <p className="trouble">{info.trouble}</p>}
        </>
      )}
    </Loaded>
  );
}

function Columns({ info }: { info: TableInfo }) {
  const isUnique = (column: string) => info.uniqueKeys.some((key) => key.length === 1 && key[0] === column);
  return (
    <Scroll sheet label={`Columns of ${info.name}`}>
      <table className="plain">
        <Heads names={['Column', 'Type', 'Declared as', 'Key and indexes', 'Refers to']} />
        <tbody>
          {info.columns.map((column) => (
            <tr key={column.name}>
              <td className="mono">{column.name}</td>
              <td>{column.type}</td>
              <td className="mono">{`${column.declared}${column.nullable ? '' : ' NOT NULL'}`}</td>
              <td>
                {[
                  column.key && 'primary key',
                  isUnique(column.name) && !column.key && 'unique',
                  info.indexedFirst.includes(column.name) && 'an index begins with it',
                ]
                  .filter((words) => words !== false)
                  .join(', ')}
              </td>
              <td>
                {column.refersTo !== null && (
                  <Go to={{ name: 'table', source: info.source, table: column.refersTo }}>{column.refersTo}</Go>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scroll>
  );
}

function ShownBy({ info }: { info: TableInfo }) {
  return (
    <>
      <h2 className="below">Pages that show it</h2>
      {info.records.length === 0 ? (
        <p className="quiet">No record of the app is read from it.</p>
      ) : (
        info.records.map((record) => (
          <p key={record.record}>
            <Go to={{ name: 'make', section: 'records', about: record.record, part: '', at: null }}>{record.record}</Go>:{' '}
            {record.pages.map((page, index) => (
              <span key={page}>
                {index > 0 && ', '}
                <Go to={{ name: 'make', section: 'pages', about: page, part: '', at: null }}>{page}</Go>
              </span>
            ))}
            {record.pages.length === 0 && 'no pages yet'} ·{' '}
            <Go to={{ name: 'changes', record: record.record, before: null }}>changes</Go>
          </p>
        ))
      )}
    </>
  );
}

function Rows({ info }: { info: TableInfo }) {
  return (
    <RowsTable
      sheet
      label={`First rows of ${info.name}`}
      columns={info.columns.map((column) => column.name)}
      rows={info.rows.map((row) => row.values)}
      last={{ heading: 'Open on', cell: (row) => <Addresses addresses={info.rows[row]?.addresses ?? []} /> }}
    />
  );
}

function Addresses({ addresses }: { addresses: RowAddressInfo[] }) {
  return addresses.map((address, at) => (
    <span key={address.page}>
      {at > 0 && ', '}
      <Go to={{ name: 'try', address: address.address, outcome: null }} aria-label={`${address.page} ${address.address}`}>
        {address.page}
      </Go>
    </span>
  ));
}
