import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Failed, Loading } from './States';

type Props<T> = { query: UseQueryResult<T>; what: string; rows?: number; children: (data: T) => ReactNode };

/** What a query gave; its loading or its failure until then. What is at hand stays while it is asked again. */
export function Loaded<T>({ query, what, rows, children }: Props<T>) {
  if (query.data !== undefined) return children(query.data);
  if (query.error !== null) return <Failed error={query.error} retry={() => void query.refetch()} />;
  return <Loading what={what} {...(rows === undefined ? {} : { rows })} />;
}
