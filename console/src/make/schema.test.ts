import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { editorOf, resolved, type Schema, type SchemaFile } from './schema';

const file = JSON.parse(readFileSync('../docs/app-file.schema.json', 'utf8')) as SchemaFile;

/** Every key of every definition, with its editor. */
function walk(): [string, string][] {
  const found: [string, string][] = [];
  const parts: [string, Schema][] = [['file', file], ...Object.entries(file.definitions)];
  for (const [name, part] of parts)
    for (const [key, schema] of Object.entries(part.properties ?? {}))
      found.push([`${name}.${key}`, editorOf(file, key, schema).kind]);
  return found;
}

describe('The forms', () => {
  it('have an editor for each key of the schema', () => {
    const lacking = walk()
      .filter(([, kind]) => kind === 'none')
      .map(([key]) => key);
    expect(walk().length).toBeGreaterThan(100);
    expect(lacking).toEqual([]);
  });

  it('choose an editor by what the schema says', () => {
    const kind = (definition: string, key: string) =>
      editorOf(file, key, file.definitions[definition]?.properties?.[key] as Schema).kind;
    expect(kind('page', 'title')).toBe('text');
    expect(kind('page', 'show')).toBe('texts');
    expect(kind('page', 'links')).toBe('items');
    expect(kind('page', 'where')).toBe('conditions');
    expect(kind('page', 'by')).toBe('pairs');
    expect(kind('page', 'ids')).toBe('keys');
    expect(kind('page', 'then')).toBe('either');
    expect(kind('page', 'neighbours')).toBe('words');
    expect(kind('page', 'menu')).toBe('text');
    expect(kind('record', 'fields')).toBe('entries');
    expect(kind('record', 'parameters')).toBe('entries');
    expect(kind('field', 'secret')).toBe('words');
    expect(kind('field', 'choices')).toBe('pairs');
    expect(resolved(file, { $ref: '#/definitions/look' }).enum).toContain('cards');
  });
});
