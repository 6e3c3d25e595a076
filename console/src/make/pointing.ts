import type { WorkingPageInfo } from '../api/schema';
import type { Pointed } from './Preview';

/** The part of a page's form that is about what was pointed at; null if none is. */
export function partOf(pointed: Pointed, page: WorkingPageInfo | undefined): string | null {
  switch (pointed.kind) {
    case 'column': {
      const column = page === undefined ? undefined : columnOf(pointed, page);
      return column === undefined ? 'show' : `show/${column}`;
    }
    case 'block':
      return 'related';
    case 'side':
      return 'side';
    case 'link':
      return 'links';
    case 'heading':
      return 'title';
    case 'search':
      return 'search';
    case 'add':
      return 'add';
    case 'menu':
      return 'menu';
    case 'field':
      return 'form';
    default:
      return null;
  }
}

/** The field of a column that was pointed at, by its number and its label. */
export function columnOf(pointed: Pointed, page: WorkingPageInfo): string | undefined {
  const here = page.columns[pointed.index];
  return (here?.detail === pointed.text ? here : page.columns.find((column) => column.detail === pointed.text))?.text;
}

/** What is outlined in the preview while a part of the form is open. */
export function pointedOf(part: string, page: WorkingPageInfo): Pointed | null {
  const [key, name] = part.split('/');
  const kinds: Record<string, string> = {
    title: 'heading',
    search: 'search',
    side: 'side',
    related: 'block',
    add: 'add',
    menu: 'menu',
  };
  const kind = kinds[key ?? ''];
  if (kind !== undefined) return { kind, index: 0, text: '' };
  const column = page.columns.findIndex((each) => key === 'show' && each.text === name);
  if (column >= 0) return { kind: 'column', index: column, text: page.columns[column]?.detail ?? '' };
  const action = page.actions[0];
  return key === 'links' && action !== undefined ? { kind: 'link', index: 0, text: action.detail } : null;
}
