/** A part of the JSON Schema of app files (draft-07), as far as forms need it. */
export type Schema = {
  $ref?: string;
  type?: string | string[];
  enum?: (string | number | boolean)[];
  anyOf?: Schema[];
  oneOf?: Schema[];
  items?: Schema;
  required?: string[];
  description?: string;
  properties?: Record<string, Schema>;
  additionalProperties?: Schema | boolean;
  propertyNames?: Schema;
};

export type SchemaFile = Schema & { definitions: Record<string, Schema> };

/** A value of the app file: all texts are texts, whatever they look like. */
export type Value = string | null | Value[] | { [key: string]: Value };

/** How the value of a key is edited. */
export type Editor =
  | { kind: 'text'; several: boolean }
  | { kind: 'words'; words: string[] }
  | { kind: 'texts'; words: string[] }
  | { kind: 'pairs' }
  | { kind: 'conditions' }
  | { kind: 'items'; item: Schema; short: boolean }
  | { kind: 'entries'; entry: Schema; short: boolean }
  | { kind: 'keys'; keys: Record<string, Schema>; required: string[] }
  | { kind: 'either'; keys: Record<string, Schema> }
  | { kind: 'none' };

/** Keys whose texts may have several lines. */
const long = ['text', 'query', 'notice', 'header', 'footer', 'help'];

/** The editor of a key. `none` means that it can only be changed in the text. */
export function editorOf(file: SchemaFile, name: string, given: Schema): Editor {
  const schema = resolved(file, given);
  const ref = given.$ref?.split('/').at(-1);
  if (ref === 'conditions') return { kind: 'conditions' };
  if (ref === 'flag') return { kind: 'words', words: ['true', 'false'] };
  if (schema.enum) return { kind: 'words', words: [...new Set(schema.enum.map(String))] };
  if (schema.anyOf) return eitherOf(file, name, schema.anyOf);
  if (schema.type === 'array') return listOf(file, schema.items ?? {});
  if (isPlain(file, schema)) return { kind: 'text', several: long.includes(name) };
  if (schema.properties) return { kind: 'keys', keys: schema.properties, required: schema.required ?? [] };
  const entry = schema.additionalProperties;
  if (typeof entry !== 'object') return { kind: 'none' };
  const below = resolved(file, entry);
  if (isPlain(file, below)) return { kind: 'pairs' };
  return { kind: 'entries', entry, short: (below.anyOf ?? []).some((one) => isPlain(file, resolved(file, one))) };
}

/** A schema with its reference followed; what is said beside the reference stays. */
export function resolved(file: SchemaFile, schema: Schema): Schema {
  if (schema.$ref === undefined) return schema;
  const { $ref, ...own } = schema;
  return { ...resolved(file, file.definitions[$ref.split('/').at(-1) ?? ''] ?? {}), ...own };
}

/** The schema of a part of the app file by its place; null if the schema has none. */
export function schemaAt(file: SchemaFile, place: string[]): Schema | null {
  let schema: Schema = file;
  for (const step of place) {
    const here = resolved(file, schema);
    const below =
      here.properties?.[step] ?? (typeof here.additionalProperties === 'object' ? here.additionalProperties : undefined);
    if (below === undefined) return null;
    schema = below;
  }
  return schema;
}

function eitherOf(file: SchemaFile, name: string, parts: Schema[]): Editor {
  const list = parts.find((part) => resolved(file, part).type === 'array');
  const plain = parts.find((part) => isPlain(file, resolved(file, part)));
  const keyed = parts.map((part) => resolved(file, part)).find((part) => part.properties !== undefined);
  if (keyed?.properties && plain) return { kind: 'either', keys: keyed.properties };
  if (list) return { kind: 'texts', words: [] };
  return plain ? { kind: 'text', several: long.includes(name) } : { kind: 'none' };
}

function listOf(file: SchemaFile, item: Schema): Editor {
  const one = resolved(file, item);
  if (one.enum) return { kind: 'texts', words: one.enum.map(String) };
  if (isPlain(file, one)) return { kind: 'texts', words: [] };
  return { kind: 'items', item, short: (one.anyOf ?? []).some((part) => isPlain(file, resolved(file, part))) };
}

function isPlain(file: SchemaFile, schema: Schema): boolean {
  if (schema.enum) return true;
  if (schema.anyOf) return schema.anyOf.every((part) => isPlain(file, resolved(file, part)));
  const types = [schema.type ?? 'object'].flat();
  return types.every((type) => ['string', 'number', 'integer', 'boolean'].includes(type));
}
