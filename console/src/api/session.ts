const key = 'jexa-token';

/** The token of this tab: kept through a refresh, gone with the tab, and never sent by the browser of itself. */
export function token(): string | null {
  return sessionStorage.getItem(key);
}

export function forgetToken(): void {
  sessionStorage.removeItem(key);
}

/**
 * Trades the one-time code in the URL, if there is one, for the token, and takes the code out of the address bar. A code
 * that is spent already changes nothing: the tab may have the token.
 */
export async function signIn(): Promise<void> {
  const code = new URLSearchParams(location.hash.slice(1)).get('code');
  if (code === null) return;
  history.replaceState(null, '', location.pathname + location.search);
  try {
    const answer = await fetch('/api/session', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ code }),
    });
    if (answer.ok) sessionStorage.setItem(key, (await answer.json()).token);
  } catch {
    // The service is gone: the console says so in any case.
  }
}
