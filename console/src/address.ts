import { useSyncExternalStore } from 'react';

/** What the console shows. Each screen has an address of its own, so that it survives a refresh and can be sent to somebody. */
export type Screen =
  | { name: 'pages'; find: string }
  | { name: 'try'; address: string | null; outcome: string | null }
  | { name: 'visit'; number: number }
  | { name: 'sources' }
  | ChangeAsked
  | { name: 'findings'; line: number | null }
  | { name: 'nowhere'; path: string };

/** A named change of the app file that is being made: what, of which page or record, and to what. */
export type ChangeAsked = { name: 'change'; change: NamedChange; about: string; key: string; to: string };

/** The changes that the console makes. */
export const namedChanges = ['add-pages', 'set', 'reset', 'rename-page', 'move-page', 'rename-parameter', 'remove-page'] as const;
export type NamedChange = (typeof namedChanges)[number];

/** The change screen as it begins. */
export const noChange: ChangeAsked = { name: 'change', change: 'add-pages', about: '', key: '', to: '' };

/** Reads the screen that a URL means. */
export function readScreen(url: URL): Screen {
  const { pathname: path, searchParams: query } = url;
  if (path === '/' || path === '/pages') return { name: 'pages', find: query.get('find') ?? '' };
  if (path === '/try') return { name: 'try', address: query.get('address'), outcome: query.get('outcome') };
  if (path === '/sources') return { name: 'sources' };
  if (path === '/change') return readChange(path, query);
  if (path === '/findings') return { name: 'findings', line: wholeNumber(query.get('line')) };
  const visit = /^\/visits\/(\d{1,15})$/.exec(path);
  return visit ? { name: 'visit', number: Number(visit[1]) } : { name: 'nowhere', path };
}

function readChange(path: string, query: URLSearchParams): Screen {
  const asked = query.get('do') ?? noChange.change;
  const change = namedChanges.find((name) => name === asked);
  return change === undefined
    ? { name: 'nowhere', path: `${path}?do=${asked}` }
    : { name: 'change', change, about: query.get('about') ?? '', key: query.get('key') ?? '', to: query.get('to') ?? '' };
}

/** The address of a screen: `readScreen` reads it back. */
export function writeScreen(screen: Screen): string {
  switch (screen.name) {
    case 'pages':
      return withQuery('/pages', { find: screen.find || null });
    case 'try':
      return withQuery('/try', { address: screen.address, outcome: screen.outcome });
    case 'visit':
      return `/visits/${screen.number}`;
    case 'sources':
      return '/sources';
    case 'change':
      return withQuery('/change', {
        do: screen.change,
        about: screen.about || null,
        key: screen.key || null,
        to: screen.to || null,
      });
    case 'findings':
      return withQuery('/findings', { line: screen.line === null ? null : String(screen.line) });
    case 'nowhere':
      return screen.path;
  }
}

/** Shows another screen, as a click on a link to it would. */
export function go(screen: Screen): void {
  history.pushState(null, '', writeScreen(screen));
  tellEverybody();
}

/** Writes another address for what is on screen already: nothing is shown anew. */
export function renameTo(screen: Screen): void {
  history.replaceState(null, '', writeScreen(screen));
  tellEverybody();
}

/** The screen that the address bar means at this moment. */
export function useScreen(): Screen {
  const url = useSyncExternalStore(subscribe, () => location.href);
  return readScreen(new URL(url));
}

const listeners = new Set<() => void>();

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  window.addEventListener('popstate', listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener('popstate', listener);
  };
}

function tellEverybody(): void {
  for (const listener of listeners) listener();
}

function withQuery(path: string, values: Record<string, string | null>): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(values)) if (value !== null) query.set(name, value);
  return query.size === 0 ? path : `${path}?${query}`;
}

function wholeNumber(text: string | null): number | null {
  return text !== null && /^[1-9]\d{0,8}$/.test(text) ? Number(text) : null;
}
