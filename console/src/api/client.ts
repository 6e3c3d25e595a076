import createClient, { type Middleware } from 'openapi-fetch';
import type { ProblemDetails, paths } from './schema';
import { forgetToken, token } from './session';

/** Why the service gave no answer that can be shown. */
export type Trouble = 'gone' | 'signed-out' | 'refused';

/** Thrown by every call that did not succeed; `message` is a sentence for the person in front of the console. */
export class ServiceError extends Error {
  constructor(
    readonly trouble: Trouble,
    message: string,
  ) {
    super(message);
  }
}

const withToken: Middleware = {
  onRequest({ request }) {
    const held = token();
    if (held !== null) request.headers.set('Authorization', `Bearer ${held}`);
    return request;
  },
  onError() {
    return new ServiceError('gone', 'The service does not answer.');
  },
};

// `fetch` is looked up at each call: tests put their own in its place.
const client = createClient<paths>({ baseUrl: location.origin, fetch: (request) => globalThis.fetch(request) });
client.use(withToken);

/** The management API, typed by its own OpenAPI document. */
export const api = client;

/** What an answer holds; throws a `ServiceError` for one that is a problem. */
export async function answered<T>(
  call: Promise<{ data?: T; error?: ProblemDetails | undefined; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call;
  if (data !== undefined) return data;
  if (response.status === 401) {
    forgetToken();
    throw new ServiceError('signed-out', 'The service does not take the token of this tab.');
  }
  if (response.status >= 502) throw new ServiceError('gone', 'The service does not answer.');
  throw new ServiceError('refused', error?.detail ?? `The service answers ${response.status}.`);
}
