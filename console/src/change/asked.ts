import type { ChangeAsked, NamedChange } from '../address';
import type { NamedChangeRequest } from '../api/schema';

/** The kinds of pages that a record can have. */
export const kinds = ['list', 'detail', 'edit', 'new', 'delete'] as const;

export const words: Record<NamedChange, string> = {
  'add-pages': 'Add pages for a record',
  'rename-page': 'Rename a page',
  'remove-page': 'Remove a page',
};

/** The kinds that are asked for: all of them if none is named. */
export function kindsOf(to: string): string[] {
  return to === '' ? [...kinds] : kinds.filter((kind) => to.split(',').includes(kind));
}

/** What the service is asked for; null while something is still to be said. */
export function requestOf({ change, about, to }: ChangeAsked): NamedChangeRequest | null {
  if (about === '') return null;
  switch (change) {
    case 'add-pages':
      return kindsOf(to).length === 0 ? null : { change, record: about, kinds: kindsOf(to) };
    case 'rename-page':
      return to === '' || to === about ? null : { change, page: about, name: to };
    case 'remove-page':
      return { change, page: about };
  }
}
