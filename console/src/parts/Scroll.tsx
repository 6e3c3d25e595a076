import type { ReactNode } from 'react';

/** Holds what may be wider than the screen: it is scrolled by itself, with the keyboard too. */
export function Scroll({ label, sheet = false, children }: { label: string; sheet?: boolean; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached.
    <section className={sheet ? 'sheet scroll' : 'scroll'} aria-label={label} tabIndex={0}>
      {children}
    </section>
  );
}
