import { capital } from '../parts/words';
import type { Value } from './schema';

/** A part in one line. */
export function summaryOf(value: Value | undefined): string {
  if (value === undefined || value === null) return '';
  if (typeof value === 'string') return value;
  const text = Array.isArray(value)
    ? value.map(summaryOf).join(', ')
    : Object.entries(value)
        .map(([key, own]) => `${key}: ${bracketed(own)}`)
        .join(', ');
  return text.length > 90 ? `${text.slice(0, 90)}…` : text;
}

/** A part within another one, in its brackets. */
function bracketed(value: Value): string {
  if (Array.isArray(value)) return `[${summaryOf(value)}]`;
  return typeof value === 'object' && value !== null ? `{ ${summaryOf(value)} }` : summaryOf(value);
}

/** A key as a person reads it: `max_length` is “Max length”. */
export function nameOf(key: string): string {
  return capital(key.replaceAll('_', ' '));
}

/** A value as one text, whole: what is typed over it is written back. */
export const textOf = (value: Value | undefined): string =>
  Array.isArray(value) ? value.map(textOf).join(', ') : typeof value === 'string' ? value : summaryOf(value);

/** A value as a mapping; an empty one if it is anything else. */
export const mapOf = (value: Value | undefined): { [key: string]: Value } =>
  typeof value === 'object' && value !== null && !Array.isArray(value) ? value : {};

/** A value as a list; an empty one if it is anything else. */
export const listOf = (value: Value | undefined): Value[] => (Array.isArray(value) ? value : []);
