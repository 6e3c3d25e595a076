/** How the value of a key can be typed: one text, a list of texts, one of a few words; or not in a form. */
export type Shape = 'text' | 'texts' | 'words' | 'other';

export type Key = { name: string; means: string; shape: Shape; words: string[] };

type Schema = {
  $ref?: string;
  type?: string | string[];
  enum?: string[];
  anyOf?: Schema[];
  items?: Schema;
  description?: string;
  properties?: Record<string, Schema>;
};

/** The keys of a page, as the schema of app files has them. */
export function keysOf(schema: { definitions: Record<string, Schema> }): Key[] {
  const page = schema.definitions.page?.properties ?? {};
  return Object.entries(page).map(([name, own]) => ({
    name,
    means: own.description ?? '',
    shape: shapeOf(own),
    words: own.enum ?? [],
  }));

  function shapeOf(own: Schema): Shape {
    if (own.enum) return 'words';
    const ref = own.$ref?.split('/').at(-1);
    if (ref === 'texts') return 'texts';
    if (ref === 'name' || ref === 'text' || ref === 'look') return 'text';
    if (own.type === 'array') return own.items?.enum || own.items?.$ref?.endsWith('/text') ? 'texts' : 'other';
    const types = own.anyOf
      ? own.anyOf.flatMap((one) => one.type ?? (one.$ref?.endsWith('/name') ? 'string' : 'object'))
      : own.type;
    return [types ?? 'object'].flat().every((type) => type === 'string' || type === 'integer') ? 'text' : 'other';
  }
}
