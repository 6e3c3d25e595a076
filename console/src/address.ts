import { useSyncExternalStore } from 'react';

/** What the console shows. Each screen has an address of its own, so that it survives a refresh and can be sent to somebody. */
export type Screen =
  | { name: 'pages'; find: string; by?: 'page' | 'record'; open?: string }
  | { name: 'try'; address: string | null; outcome: string | null; beside?: string }
  | { name: 'visit'; number: number }
  | { name: 'sources' }
  | { name: 'table'; source: string; table: string }
  | { name: 'query'; source: string; query: string; values: Record<string, string> }
  | MakeScreenAddress
  | { name: 'text'; line: number | null }
  | { name: 'save'; version?: string }
  | { name: 'start' }
  | { name: 'watch' }
  | { name: 'changes'; record: string; before: number | null }
  | { name: 'map'; of: 'page' | 'record'; about: string; steps: number }
  | { name: 'cases'; on: 'preview' | 'live' }
  | { name: 'findings'; line: number | null }
  | { name: 'proofs' }
  | { name: 'report'; number: number }
  | { name: 'nowhere'; path: string };

/** The parts of an app file that have a form each. */
export const sections = ['pages', 'records', 'sources', 'app'] as const;
export type Section = (typeof sections)[number];

/**
 * What is being made: a page, a record, a source, or the app as a whole. `part` is the open part of its form, a place within
 * it; `at` is the address that the preview shows.
 */
export type MakeScreenAddress = { name: 'make'; section: Section; about: string; part: string; at: string | null };

/** The screen where pages are made, as it begins. */
export const noPage: MakeScreenAddress = { name: 'make', section: 'pages', about: '', part: '', at: null };

/** Reads the screen that a URL means. */
export function readScreen(url: URL): Screen {
  const { pathname: path, searchParams: query } = url;
  if (path === '/' || path === '/pages') return readPages(query);
  if (path === '/try')
    return {
      name: 'try',
      address: query.get('address'),
      outcome: query.get('outcome'),
      ...(query.has('beside') && { beside: query.get('beside') ?? '' }),
    };
  if (path === '/sources') return { name: 'sources' };
  if (path === '/query') return readQuery(query);
  const table = /^\/sources\/([^/]+)\/([^/]+)$/.exec(path);
  if (table) return readTable(path, table[1] ?? '', table[2] ?? '');
  if (path === '/text') return { name: 'text', line: wholeNumber(query.get('line')) };
  if (path === '/map')
    return {
      name: 'map',
      of: query.get('of') === 'record' ? 'record' : 'page',
      about: query.get('about') ?? '',
      steps: query.get('steps') === '2' ? 2 : 1,
    };
  if (path === '/changes')
    return { name: 'changes', record: query.get('record') ?? '', before: wholeNumber(query.get('before')) };
  if (path === '/watch') return { name: 'watch' };
  if (path === '/try/ids') return { name: 'cases', on: query.get('on') === 'live' ? 'live' : 'preview' };
  if (path === '/start') return { name: 'start' };
  if (path === '/save') return { name: 'save', ...(query.has('version') && { version: query.get('version') ?? '' }) };
  const make = /^\/make(?:\/([a-z]+)(?:\/([A-Za-z0-9_-]+))?)?$/.exec(path);
  if (make) return readMake(path, make[1], make[2], query);
  if (path === '/findings') return { name: 'findings', line: wholeNumber(query.get('line')) };
  if (path === '/proofs') return { name: 'proofs' };
  const report = /^\/proofs\/(\d{1,9})$/.exec(path);
  if (report) return { name: 'report', number: Number(report[1]) };
  const visit = /^\/visits\/(\d{1,15})$/.exec(path);
  return visit ? { name: 'visit', number: Number(visit[1]) } : { name: 'nowhere', path };
}

/** All pages, or those that are asked for; one by one or by their records, with one record's pages unfolded. */
function readPages(query: URLSearchParams): Screen {
  const by = query.get('by');
  return {
    name: 'pages',
    find: query.get('find') ?? '',
    ...((by === 'page' || by === 'record') && { by }),
    ...(query.has('open') && { open: query.get('open') ?? '' }),
  };
}

function readTable(path: string, source: string, table: string): Screen {
  try {
    return { name: 'table', source: decodeURIComponent(source), table: decodeURIComponent(table) };
  } catch {
    return { name: 'nowhere', path };
  }
}

/** A query, its source, and the values of its parameters: each of these as `value.NAME`. */
function readQuery(query: URLSearchParams): Screen {
  const values = [...query].filter(([name]) => name.startsWith('value.')).map(([name, value]) => [name.slice(6), value] as const);
  return {
    name: 'query',
    source: query.get('source') ?? '',
    query: query.get('query') ?? '',
    values: Object.fromEntries(values),
  };
}

function readMake(path: string, section: string | undefined, about: string | undefined, query: URLSearchParams): Screen {
  const known = sections.find((name) => name === (section ?? 'pages'));
  return known === undefined
    ? { name: 'nowhere', path }
    : { name: 'make', section: known, about: about ?? '', part: query.get('part') ?? '', at: query.get('at') };
}

/** The address of a screen: `readScreen` reads it back. */
export function writeScreen(screen: Screen): string {
  switch (screen.name) {
    case 'pages':
      return withQuery('/pages', { find: screen.find || null, by: screen.by ?? null, open: screen.open ?? null });
    case 'try':
      return withQuery('/try', { address: screen.address, outcome: screen.outcome, beside: screen.beside ?? null });
    case 'visit':
      return `/visits/${screen.number}`;
    case 'sources':
      return '/sources';
    case 'table':
      return `/sources/${encodeURIComponent(screen.source)}/${encodeURIComponent(screen.table)}`;
    case 'query':
      return withQuery('/query', {
        source: screen.source || null,
        query: screen.query || null,
        ...Object.fromEntries(Object.entries(screen.values).map(([name, value]) => [`value.${name}`, value])),
      });
    case 'make':
      return withQuery(`/make/${screen.section}${screen.about === '' ? '' : `/${screen.about}`}`, {
        part: screen.part || null,
        at: screen.at,
      });
    case 'text':
      return withQuery('/text', { line: screen.line === null ? null : String(screen.line) });
    case 'save':
      return withQuery('/save', { version: screen.version ?? null });
    case 'start':
      return '/start';
    case 'map':
      return withQuery('/map', {
        of: screen.of === 'record' ? 'record' : null,
        about: screen.about || null,
        steps: screen.steps === 2 ? '2' : null,
      });
    case 'changes':
      return withQuery('/changes', {
        record: screen.record || null,
        before: screen.before === null ? null : String(screen.before),
      });
    case 'watch':
      return '/watch';
    case 'cases':
      return withQuery('/try/ids', { on: screen.on === 'live' ? 'live' : null });
    case 'findings':
      return withQuery('/findings', { line: screen.line === null ? null : String(screen.line) });
    case 'proofs':
      return '/proofs';
    case 'report':
      return `/proofs/${screen.number}`;
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
