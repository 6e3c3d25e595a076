import { useQuery } from '@tanstack/react-query';
import { answered, api } from '../api/client';
import { Plan } from '../parts/Plan';
import { RowsTable } from '../parts/RowsTable';

/** The first rows of a record kind as it is being made: of its table, or of its own query. */
export function RecordRows({ revision, record }: { revision: number; record: string }) {
  const rows = useQuery({
    queryKey: ['record-rows', revision, record],
    queryFn: () => answered(api.GET('/api/working-copy/rows/{record}', { params: { path: { record } } })),
    retry: false,
  });
  return (
    <section className="sheet record-rows" aria-label={`First rows of ${record}`}>
      <h2>First rows</h2>
      {rows.error !== null && <p className="trouble">{rows.error.message}</p>}
      {rows.data && <RowsTable label={`First rows of ${record}, as a table`} columns={rows.data.columns} rows={rows.data.rows} />}
      {rows.data?.plan && <Plan plan={rows.data.plan} />}
    </section>
  );
}
