import { describe, expect, it } from 'vitest';
import { kindsOf, requestOf } from './asked';

describe('What the service is asked for', () => {
  it('is nothing while something is still to be said', () => {
    expect(requestOf({ name: 'change', change: 'add-pages', about: '', to: '' })).toBeNull();
    expect(requestOf({ name: 'change', change: 'rename-page', about: 'bridge', to: '' })).toBeNull();
    expect(requestOf({ name: 'change', change: 'rename-page', about: 'bridge', to: 'bridge' })).toBeNull();
    expect(requestOf({ name: 'change', change: 'add-pages', about: 'bridge', to: 'none' })).toBeNull();
  });

  it('names the page or the record', () => {
    expect(requestOf({ name: 'change', change: 'rename-page', about: 'bridge', to: 'span' })).toEqual({
      change: 'rename-page',
      page: 'bridge',
      name: 'span',
    });
    expect(requestOf({ name: 'change', change: 'remove-page', about: 'bridge', to: '' })).toEqual({
      change: 'remove-page',
      page: 'bridge',
    });
  });

  it('is all kinds of pages if none is named, in their usual order', () => {
    expect(kindsOf('')).toEqual(['list', 'detail', 'edit', 'new', 'delete']);
    expect(kindsOf('detail,list,nonsense')).toEqual(['list', 'detail']);
  });
});
