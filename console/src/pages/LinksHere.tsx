import type { PageInfo, PageLinkInfo } from '../api/schema';

const reasons: Record<string, string> = {
  record: 'its rows',
  reference: 'by foreign key',
  back: 'the way back',
};

/** The links that lead to a page: from where, on which field, and which field fills which parameter. */
export function LinksHere({ page }: { page: PageInfo }) {
  if (!page.inMenu && page.linkedFrom.length === 0) return <span className="quiet">no page; only whoever knows its address</span>;
  return (
    <ul className="bare">
      {page.inMenu && <li>the menu of every page</li>}
      {page.linkedFrom.map((link, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: two links may be alike, and their order is the app file's.
        <li key={place}>
          {link.page}
          <span className="pass">
            {standing(link)}
            {link.passes.length > 0 && (
              <span className="mono"> {link.passes.map((pass) => `${pass.parameter} ← ${pass.field}`).join(', ')}</span>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}

function standing(link: PageLinkInfo): string {
  const reason = reasons[link.reason];
  const parts = [link.column === null ? null : `on ${link.column}`, reason ?? null].filter((part) => part !== null);
  return parts.length === 0 ? ':' : `, ${parts.join(', ')}${link.passes.length > 0 ? ':' : ''}`;
}
