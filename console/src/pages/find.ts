import type { PageInfo } from '../api/schema';

/** Whether a page is one of those that somebody looks for. */
export function isAsked(page: PageInfo, find: string): boolean {
  const word = find.trim().toLowerCase();
  return [page.name, page.path, page.record].some((text) => text.toLowerCase().includes(word));
}
