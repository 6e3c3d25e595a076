import { expect, it } from 'vitest';
import type { PageInfo } from '../api/schema';
import { isAsked } from './find';

const page = { name: 'span', path: '/bridges/{bridge}/spans/{number}', record: 'Span' } as PageInfo;

it.each([
  ['', true],
  ['  SPAN ', true],
  ['{bridge}', true],
  ['district', false],
])('Looking for “%s”', (find, found) => {
  expect(isAsked(page, find)).toBe(found);
});
