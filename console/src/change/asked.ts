import type { ChangeAsked, NamedChange } from '../address';
import type { NamedChangeRequest } from '../api/schema';
import type { Shape } from './keys';

/** The kinds of pages that a record can have. */
export const kinds = ['list', 'detail', 'edit', 'new', 'delete'] as const;

export const words: Record<NamedChange, string> = {
  'add-pages': 'Add pages for a record',
  set: 'Set something of a page',
  reset: 'Reset something of a page',
  'rename-page': 'Rename a page',
  'move-page': 'Give a page another path',
  'rename-parameter': 'Rename a parameter',
  'remove-page': 'Remove a page',
};

/** The kinds that are asked for: all of them if none is named. */
export function kindsOf(to: string): string[] {
  return to === '' ? [...kinds] : kinds.filter((kind) => to.split(',').includes(kind));
}

/** What the service is asked for; null while something is still to be said. */
export function requestOf({ change, about, key, to }: ChangeAsked, shape: Shape = 'text'): NamedChangeRequest | null {
  if (about === '') return null;
  switch (change) {
    case 'add-pages':
      return kindsOf(to).length === 0 ? null : { change, record: about, kinds: kindsOf(to) };
    case 'set':
      return key === '' || to === '' ? null : { change, place: placeOf(about, key), value: shape === 'texts' ? linesOf(to) : to };
    case 'reset':
      return key === '' ? null : { change, place: placeOf(about, key) };
    case 'rename-page':
      return to === '' || to === about ? null : { change, page: about, name: to };
    case 'move-page':
      return to === '' ? null : { change, page: about, path: to };
    case 'rename-parameter':
      return key === '' || to === '' || to === key ? null : { change, page: about, parameter: key, name: to };
    case 'remove-page':
      return { change, page: about };
  }
}

/** The place of a page's key in the app file: a JSON Pointer (RFC 6901). */
export const placeOf = (page: string, key: string) => `/pages/${page}/${key}`;

function linesOf(text: string): string[] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');
}
