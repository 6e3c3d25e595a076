import { describe, expect, it } from 'vitest';
import { kindsOf, requestOf } from './asked';

describe('What the service is asked for', () => {
  it('is nothing while something is still to be said', () => {
    expect(requestOf({ name: 'change', change: 'add-pages', about: '', key: '', to: '' })).toBeNull();
    expect(requestOf({ name: 'change', change: 'rename-page', about: 'bridge', key: '', to: '' })).toBeNull();
    expect(requestOf({ name: 'change', change: 'rename-page', about: 'bridge', key: '', to: 'bridge' })).toBeNull();
    expect(requestOf({ name: 'change', change: 'add-pages', about: 'bridge', key: '', to: 'none' })).toBeNull();
  });

  it('names the page or the record', () => {
    expect(requestOf({ name: 'change', change: 'rename-page', about: 'bridge', key: '', to: 'span' })).toEqual({
      change: 'rename-page',
      page: 'bridge',
      name: 'span',
    });
    expect(requestOf({ name: 'change', change: 'remove-page', about: 'bridge', key: '', to: '' })).toEqual({
      change: 'remove-page',
      page: 'bridge',
    });
  });

  it('is a text or a list, as the key has it', () => {
    const set = { name: 'change', change: 'set', about: 'bridges', key: 'show', to: ' name \n\ncode' } as const;
    expect(requestOf(set, 'texts')).toEqual({ change: 'set', place: '/pages/bridges/show', value: ['name', 'code'] });
    expect(requestOf({ ...set, to: '20' }, 'text')).toEqual({ change: 'set', place: '/pages/bridges/show', value: '20' });
    expect(requestOf({ ...set, to: '' }, 'text')).toBeNull();
    expect(requestOf({ ...set, change: 'reset', to: '' })).toEqual({ change: 'reset', place: '/pages/bridges/show' });
  });

  it('names a path or a parameter', () => {
    const move = { name: 'change', change: 'move-page', about: 'bridge', key: '', to: '/b/{id}' } as const;
    expect(requestOf(move)).toEqual({ change: 'move-page', page: 'bridge', path: '/b/{id}' });
    const rename = { name: 'change', change: 'rename-parameter', about: 'bridge', key: 'id', to: 'number' } as const;
    expect(requestOf(rename)).toEqual({ change: 'rename-parameter', page: 'bridge', parameter: 'id', name: 'number' });
    expect(requestOf({ ...rename, key: '' })).toBeNull();
  });

  it('is all kinds of pages if none is named, in their usual order', () => {
    expect(kindsOf('')).toEqual(['list', 'detail', 'edit', 'new', 'delete']);
    expect(kindsOf('detail,list,nonsense')).toEqual(['list', 'detail']);
  });
});
