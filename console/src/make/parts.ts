import type { Section } from '../address';
import { nameOf } from './names';
import type { Schema, SchemaFile } from './schema';
import { resolved, schemaAt } from './schema';

/** The keys of a page in the order of the page itself, from its address down. */
const pageOrder = [
  'path',
  'was',
  'title',
  'list',
  'detail',
  'edit',
  'new',
  'delete',
  'text',
  'show',
  'links',
  'forms',
  'form',
  'then',
  'where',
  'order',
  'search',
  'side',
  'related',
  'look',
  'size',
  'add',
  'beside',
  'neighbours',
  'ids',
  'by',
  'required',
  'menu',
  'lists',
  'linked',
  'drawn_at',
];

/** Keys that only pages of some kinds have. All others are for every page. */
const ofKinds = new Map<string, string[]>([
  ['order', ['list']],
  ['search', ['list']],
  ['side', ['list']],
  ['size', ['list']],
  ['look', ['list']],
  ['add', ['list']],
  ['required', ['list', 'new']],
  ['where', ['list', 'detail', 'edit', 'delete']],
  ['show', ['list', 'detail', 'delete']],
  ['links', ['list', 'detail', 'edit', 'delete']],
  ['ids', ['list', 'detail', 'edit', 'delete']],
  ['by', ['detail', 'edit', 'new', 'delete']],
  ['related', ['detail']],
  ['beside', ['detail']],
  ['neighbours', ['detail']],
  ['forms', ['detail']],
  ['form', ['edit', 'new']],
  ['then', ['edit', 'new', 'delete']],
  ['lists', ['text']],
  ['list', ['list']],
  ['detail', ['detail']],
  ['edit', ['edit']],
  ['new', ['new']],
  ['delete', ['delete']],
  ['text', ['text']],
]);

export type Part = { key: string; schema: Schema };

/** The parts of a form: the keys that a page, record, source or app of this kind can have. */
export function partsOf(file: SchemaFile, section: Section, kind: string): Part[] {
  if (section === 'app') {
    const own = Object.entries(file.properties ?? {}).filter(([key]) => !['sources', 'records', 'pages'].includes(key));
    return own.map(([key, schema]) => ({ key, schema }));
  }
  const keys = resolved(file, schemaAt(file, [section, 'any']) ?? {}).properties ?? {};
  const parts = Object.entries(keys).map(([key, schema]) => ({ key, schema }));
  if (section !== 'pages') return parts;
  const at = (key: string) => (pageOrder.includes(key) ? pageOrder.indexOf(key) : pageOrder.length);
  return parts
    .filter(({ key }) => kind === '' || (ofKinds.get(key) ?? [kind]).includes(kind))
    .sort((one, other) => at(one.key) - at(other.key));
}

/** Names of parts that say more than their keys. */
const titles = new Map<string, string>([
  ['path', 'Address'],
  ['was', 'Former addresses'],
  ['title', 'Heading'],
  ['show', 'Fields shown'],
  ['links', 'Links'],
  ['forms', 'Pages that change the record'],
  ['form', 'Fields of the form'],
  ['then', 'After saving'],
  ['where', 'Only those'],
  ['order', 'Order'],
  ['search', 'Search'],
  ['side', 'Lists at the side'],
  ['related', 'Below the record'],
  ['look', 'Look'],
  ['size', 'Rows at a time'],
  ['add', 'Page for a new record'],
  ['beside', 'List beside the record'],
  ['neighbours', 'Previous and next'],
  ['ids', 'Answers to bad IDs'],
  ['by', 'Parameters and fields'],
  ['required', 'Parameters it needs'],
  ['menu', 'Place in the menu'],
  ['lists', 'Lists below the text'],
  ['linked', 'Linked from elsewhere'],
  ['drawn_at', 'Drawn by another program'],
  ['list', 'Record'],
  ['detail', 'Record'],
  ['edit', 'Record'],
  ['new', 'Record'],
  ['delete', 'Record'],
]);

/** The kind of a page by its keys; empty if it has none yet. */
export function kindOf(value: { [key: string]: unknown }): string {
  return ['list', 'detail', 'edit', 'new', 'delete', 'text'].find((kind) => value[kind] !== undefined) ?? '';
}

/** What a part is called. */
export const titleOf = (key: string): string => titles.get(key) ?? nameOf(key);
