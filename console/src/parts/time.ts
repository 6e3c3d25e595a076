/** Microseconds for people: `831 µs`, `12.4 ms`, `1.25 s`. */
export function duration(microseconds: number): string {
  if (microseconds < 10) return `${microseconds.toFixed(1)} µs`;
  if (microseconds < 10_000) return `${Math.round(microseconds)} µs`;
  return microseconds < 1_000_000 ? `${(microseconds / 1000).toFixed(1)} ms` : `${(microseconds / 1_000_000).toFixed(2)} s`;
}

/** The time of day of a moment, to the second, in the browser's time zone. */
export function clock(moment: string): string {
  return new Date(moment).toLocaleTimeString('en-GB');
}

/** Day and time of a moment, in the browser's time zone. */
export function dayAndTime(moment: string): string {
  return new Date(moment).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'medium' });
}
