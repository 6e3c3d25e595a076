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
    { name: 'table', source: 'register', table: 'a/b ø%' },
    { name: 'query', source: '', query: '', values: {} },
    { name: 'query', source: 'register', query: 'SELECT 1 & :a\n', values: { a: '7 ø', b: '' } },
    { name: 'make', section: 'pages', about: '', part: '', at: null },
    { name: 'make', section: 'pages', about: 'bridge-edit', part: 'links/0', at: '/bridges/7?a=1&b=%C3%B8' },
    { name: 'make', section: 'records', about: 'bridge', part: 'fields', at: null },
    { name: 'make', section: 'app', about: '', part: 'home', at: '/' },
    { name: 'text', line: null },
    { name: 'text', line: 12 },
    { name: 'save' },
    { name: 'save', version: '0a1b' },
    { name: 'start' },
    { name: 'watch' },
    { name: 'changes', record: '', before: null },
    { name: 'changes', record: 'bridge', before: 12 },
    { name: 'map', of: 'page', about: '', steps: 1 },
    { name: 'map', of: 'record', about: 'bridge', steps: 2 },
    { name: 'pages', find: 'x', by: 'record', open: 'no record' },
    { name: 'pages', find: '', by: 'page' },
    { name: 'cases', on: 'preview' },
    { name: 'cases', on: 'live' },
    { name: 'try', address: '/a', outcome: null, beside: '/b?c=1' },
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
