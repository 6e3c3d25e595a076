/** A number with its noun: `1 finding`, `3 findings`. */
export function counted(number: number, one: string, many = `${one}s`): string {
  return `${number.toLocaleString('en')} ${number === 1 ? one : many}`;
}

/** A word at the beginning of a sentence. */
export function capital(word: string): string {
  return word.charAt(0).toUpperCase() + word.slice(1);
}
