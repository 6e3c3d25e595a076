import { useQuery } from '@tanstack/react-query';
import { answered, api } from '../api/client';
import type { StartRequest, StartTableInfo } from '../api/schema';
import { Loaded } from '../parts/Loaded';
import { RowsTable } from '../parts/RowsTable';

/** The first rows of a table, so that one knows it when one sees it. */
export function SampleRows({ asked, table }: { asked: StartRequest; table: StartTableInfo }) {
  const { password, ...told } = asked;
  const rows = useQuery({
    // The password is no part of the key: keys are shown in tools.
    queryKey: ['sample-rows', told, password !== undefined, table.name],
    queryFn: () => answered(api.POST('/api/start/rows', { body: { ...asked, tables: [table.name] } })),
    retry: false,
  });
  const keys = new Set(table.columns.filter((column) => column.key).map((column) => column.name));
  return (
    <Loaded query={rows} what={`rows of ${table.name}`} rows={2}>
      {({ columns, rows }) => (
        <RowsTable
          label={`The first rows of ${table.name}`}
          columns={columns}
          rows={rows}
          note={(column) => (keys.has(column) ? ' (key)' : '')}
        />
      )}
    </Loaded>
  );
}
