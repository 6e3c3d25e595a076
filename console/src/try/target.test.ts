import { describe, expect, it } from 'vitest';
import { frameUrl, targetOf } from './target';

describe('A pasted address', () => {
  it.each([
    ['/bridges/7', '/bridges/7'],
    ['  /bridges/7\n', '/bridges/7'],
    ['http://127.0.0.1:7440/bridges/7?x=1', '/bridges/7?x=1'],
    ['HTTPS://data.example.org', '/'],
    ['/bridges/7#top', '/bridges/7'],
    ['/a/../b', '/a/../b'],
    ['//bridges/7', '//bridges/7'],
    ['/districts/n%2Fw-moor', '/districts/n%2Fw-moor'],
    ['/districts/løkke', '/districts/løkke'],
  ])('%s is the target %s, nothing of it decoded or put in order', (pasted, path) => {
    expect(targetOf(pasted)).toEqual({ path });
  });

  it.each(['', '   ', 'bridges/7', '7', 'ftp://x/y', 'javascript:alert(1)'])('“%s” is refused with a sentence', (pasted) => {
    expect(targetOf(pasted)).toEqual({ fault: expect.stringMatching(/\.$/) });
  });

  it('is shown from the pages’ own origin, whatever it says', () => {
    expect(frameUrl('http://127.0.0.1:7440/below/', '//elsewhere.example/x')).toBe('http://127.0.0.1:7440//elsewhere.example/x');
  });
});
