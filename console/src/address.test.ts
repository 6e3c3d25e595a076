import { describe, expect, it } from 'vitest';
import { readScreen, type Screen, writeScreen } from './address';

const read = (path: string) => readScreen(new URL(path, 'http://127.0.0.1:7441'));

describe('The address of a screen', () => {
  const screens: Screen[] = [
    { name: 'pages', find: '' },
    { name: 'pages', find: '{id} & more' },
    { name: 'try', address: null, outcome: null },
    { name: 'try', address: '/districts/n%2Fw-moor?a=1&b=%C3%B8#x', outcome: null },
    { name: 'try', address: '', outcome: null },
    { name: 'try', address: null, outcome: 'not-canonical' },
    { name: 'visit', number: 4711 },
    { name: 'sources' },
    { name: 'change', change: 'add-pages', about: '', key: '', to: '' },
    { name: 'change', change: 'add-pages', about: 'bridge', key: '', to: 'list,detail' },
    { name: 'change', change: 'rename-page', about: 'bridge', key: '', to: 'a & b' },
    { name: 'change', change: 'set', about: 'bridges', key: 'show', to: 'name\ncode' },
    { name: 'findings', line: null },
    { name: 'findings', line: 54 },
  ];

  it.each(screens)('is read back as what was written: %o', (screen) => {
    expect(read(writeScreen(screen))).toEqual(screen);
  });

  it.each([
    '/visits',
    '/visits/',
    '/visits/x',
    '/visits/-1',
    '/visits/1/2',
    '/Pages',
    '/pages/',
    '/api',
    '/visits/9999999999999999',
  ])('is none for %s', (path) => {
    expect(read(path)).toEqual({ name: 'nowhere', path });
  });

  it('is the pages at the root', () => {
    expect(read('/')).toEqual({ name: 'pages', find: '' });
  });

  it.each(['0', '-1', '1.5', 'x', '1e3', ''])('ignores that a line is %s', (line) => {
    expect(read(`/findings?line=${line}`)).toEqual({ name: 'findings', line: null });
  });
});
