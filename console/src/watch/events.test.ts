import { expect, it } from 'vitest';
import { EventReader } from './events';

it('gives the data of each event once, however the stream is cut', () => {
  const stream = 'event: visits\ndata: {"a":1}\n\n: a comment\n\ndata: two\ndata: lines\n\ndata: un';
  for (let size = 1; size < stream.length; size++) {
    const reader = new EventReader();
    const found: string[] = [];
    for (let at = 0; at < stream.length; at += size) found.push(...reader.read(stream.slice(at, at + size)));
    expect(found).toEqual(['{"a":1}', 'two\nlines']);
  }
});
