import { afterEach, describe, expect, it, vi } from 'vitest';
import { answered, api } from './client';
import { signIn, token } from './session';

const answer = (status: number, body: unknown, type = 'application/json') =>
  new Response(typeof body === 'string' ? body : JSON.stringify(body), { status, headers: { 'Content-Type': type } });

afterEach(() => {
  vi.unstubAllGlobals();
  sessionStorage.clear();
  history.replaceState(null, '', '/');
});

describe('The management client', () => {
  it('shows the tab’s token, and gives what the service answers', async () => {
    sessionStorage.setItem('jexa-token', 'abc');
    const fetch = vi.fn(async (request: Request) => answer(200, { app: request.headers.get('Authorization') }));
    vi.stubGlobal('fetch', fetch);
    expect(await answered(api.GET('/api/site'))).toMatchObject({ app: 'Bearer abc' });
  });

  it.each([
    [404, { detail: 'There is no outcome “x”.' }, 'refused', 'There is no outcome “x”.'],
    [500, '', 'refused', 'The service answers 500.'],
    [503, '', 'gone', 'The service does not answer.'],
    [401, { detail: 'This needs the token.' }, 'signed-out', 'The service does not take the token of this tab.'],
  ])('turns the status %i into words', async (status, body, trouble, message) => {
    sessionStorage.setItem('jexa-token', 'old');
    vi.stubGlobal('fetch', async () => answer(status, body, 'application/problem+json'));
    await expect(answered(api.GET('/api/pages'))).rejects.toMatchObject({ trouble, message });
    expect(token()).toBe(status === 401 ? null : 'old');
  });

  it('says that the service is gone when nothing answers', async () => {
    vi.stubGlobal('fetch', async () => {
      throw new TypeError('connection refused');
    });
    await expect(answered(api.GET('/api/pages'))).rejects.toMatchObject({ trouble: 'gone' });
  });

  it('trades the code in the URL for the token, and takes it out of the address bar', async () => {
    history.replaceState(null, '', '/try?address=%2Fx#code=once');
    const fetch = vi.fn(async () => answer(200, { token: 'kept' }));
    vi.stubGlobal('fetch', fetch);
    await signIn();
    expect(token()).toBe('kept');
    expect(location.pathname + location.search + location.hash).toBe('/try?address=%2Fx');
    await signIn();
    expect(fetch).toHaveBeenCalledTimes(1);
  });

  it('keeps a token that it has when the code is spent', async () => {
    sessionStorage.setItem('jexa-token', 'kept');
    history.replaceState(null, '', '/#code=spent');
    vi.stubGlobal('fetch', async () => answer(403, {}));
    await signIn();
    expect(token()).toBe('kept');
  });
});
