import { Button, Skeleton } from '@mantine/core';
import type { ReactNode } from 'react';

/** What stands where something will stand as soon as it is loaded. */
export function Loading({ what, rows = 4 }: { what: string; rows?: number }) {
  return (
    <div className="sheet says" role="status" aria-label={`Loading ${what}`}>
      {Array.from({ length: rows }, (_, row) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the rows are all alike.
        <Skeleton key={row} height={18} mb={12} />
      ))}
    </div>
  );
}

/** What stands where there is nothing to show. */
export function Empty({ title, children, level: Heading = 'h2' }: { title: string; children?: ReactNode; level?: 'h1' | 'h2' }) {
  return (
    <div className="sheet says">
      <Heading>{title}</Heading>
      {children}
    </div>
  );
}

/** What stands where loading failed. */
export function Failed({ error, retry }: { error: Error; retry: () => void }) {
  return (
    <div className="sheet says" role="alert">
      <h2>This could not be loaded</h2>
      <p>{error.message}</p>
      <Button variant="default" size="xs" onClick={retry}>
        Try again
      </Button>
    </div>
  );
}
