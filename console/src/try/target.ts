/** What somebody pasted, as a request target; or why it cannot be one. */
export type Target = { path: string } | { fault: string };

/**
 * Takes the path out of a pasted address: of a whole URL, or as it stands. Nothing is decoded, resolved or put in order:
 * what is wrong with an address is what somebody wants to see.
 */
export function targetOf(pasted: string): Target {
  const text = pasted.trim();
  if (text === '') return { fault: 'Paste an address, such as /bridges/7.' };
  const url = /^https?:\/\/[^/?#]*(.*)$/i.exec(text);
  const path = url ? url[1] || '/' : text;
  if (!path.startsWith('/')) return { fault: 'An address begins with a slash, or with http:// or https://.' };
  return { path: path.split('#', 1)[0] as string };
}

/** Where the frame finds a path: below the pages' origin, as it is written. */
export function frameUrl(pagesUrl: string, path: string): string {
  return new URL(pagesUrl).origin + path;
}
