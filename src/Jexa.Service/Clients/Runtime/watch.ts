/* ---- Watching: for screens that stay while their address changes. ---- */

/** What a screen shows at this moment: never anything of an address that it has left. First nothing ("waiting"); if that takes longer, "loading". */
export type Watched<N extends PageName> =
  | { readonly outcome: "idle" }
  | { readonly outcome: "waiting" | "loading"; readonly asked: string }
  | { readonly [P in N]: { readonly page: P; readonly asked: string; readonly parameters: PageParameters[P] } & Loaded<PageValues[P]> }[N]
  | ({ readonly page: null; readonly asked: string } & Failure);
export interface Watcher<N extends PageName> {
  readonly state: Watched<N>;
  /** Shows another address; the last one wins, and earlier loads are ended. The same address again does nothing. */
  readonly go: (address: string) => void;
  /** Loads the same address anew. */
  readonly again: () => void;
  /** Loads an address that somebody is about to go to. */
  readonly prefetch: (address: string) => void;
  /** Prefetches the links below an element that are pointed at or focused. */
  readonly onIntent: (root: EventTarget, addressOf?: (link: HTMLAnchorElement) => string) => () => void;
  readonly subscribe: (listener: () => void) => () => void;
  /** Ends whatever is under way; nobody is told anything any more. */
  readonly close: () => void;
}
export interface WatchOptions {
  /** For so many milliseconds "waiting" stands before "loading": 150. */ readonly grace?: number;
  /** An answer that came with the page itself, so that it is not asked for twice. */ readonly first?: { readonly address: string; readonly answer: unknown; readonly version?: string };
}

export function watch<N extends PageName>(service: Service, pages: readonly N[], options: WatchOptions = {}): Watcher<N> {
  type Done = Watched<N>;
  const fresh = 10_000;
  const listeners = new Set<() => void>();
  const ready = new Map<string, { readonly done: Promise<Done>; readonly since: number; readonly stop: AbortController }>();
  const undo = new Set<() => void>();
  let state: Done = { outcome: "idle" };
  let first = options.first;
  let asked: string | null = null;
  let turn = 0;
  let stop: AbortController | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let closed = false;

  const set = (next: Done) => {
    state = next;
    for (const listener of [...listeners]) listener();
  };
  const begin = async (address: string, signal: AbortSignal): Promise<Done> => {
    const at = meaning(address);
    const known = at.page !== null && (pages as readonly string[]).includes(at.page) ? shapes.get(at.page) : undefined;
    if (!known) return { page: null, asked: address, outcome: "no-page", detail: `No page that is watched has the address ${address}.` };
    const handed = first?.address === address ? first : undefined;
    if (handed) first = undefined;
    const loaded = handed
      ? taken({ status: 200, body: isMembers(handed.answer) ? handed.answer : null, address, version: handed.version ?? null, after: 5, strange: null }, known.plan.page, known.good, known.fields)
      : await load(service, known.plan.page, address, known.good, known.fields, { signal });
    return { page: known.plan.page, asked: address, parameters: at.values, ...loaded } as unknown as Done;
  };
  const take = (address: string): { done: Promise<Done>; stop: AbortController } => {
    const kept = ready.get(address);
    ready.delete(address);
    if (kept && performance.now() - kept.since < fresh) return kept;
    kept?.stop.abort();
    const own = new AbortController();
    return { done: begin(address, own.signal), stop: own };
  };
  const show = (address: string) => {
    const mine = ++turn;
    asked = address;
    clearTimeout(timer);
    stop?.abort();
    const taking = take(address);
    stop = taking.stop;
    set({ outcome: "waiting", asked: address });
    if (mine !== turn) return;
    timer = setTimeout(() => set({ outcome: "loading", asked: address }), options.grace ?? 150);
    void taking.done.then(
      (done) => {
        if (mine !== turn) return;
        clearTimeout(timer);
        set(done);
      },
      (error: unknown) => {
        // What was ended for another address says nothing; anything else is told, never thrown away.
        if (mine !== turn) return;
        clearTimeout(timer);
        set({ page: null, asked: address, outcome: "strange", detail: String(error) });
      },
    );
  };
  const again = () => {
    if (!closed && asked !== null) show(asked);
  };
  const prefetch = (address: string) => {
    if (closed || address === asked || ready.has(address)) return;
    for (const [other, kept] of [...ready]) {
      if (performance.now() - kept.since < fresh && ready.size < 20) continue;
      kept.stop.abort();
      ready.delete(other);
    }
    const own = new AbortController();
    const done = begin(address, own.signal);
    ready.set(address, { done, since: performance.now(), stop: own });
    // A prefetch that failed is no answer: who goes there asks anew.
    void done.then((one) => (one.outcome === "offline" || one.outcome === "unavailable" || one.outcome === "failed") && ready.delete(address), () => ready.delete(address));
  };
  const listen = (target: EventTarget, type: string, act: (event: Event) => void) => {
    target.addEventListener(type, act);
    const end = () => {
      target.removeEventListener(type, act);
      undo.delete(end);
    };
    undo.add(end);
    return end;
  };
  // Whoever nobody listens to listens to nobody: it can be forgotten without being closed.
  let awake: (() => void) | undefined;
  const wake = () => {
    if (typeof globalThis.addEventListener === "function") awake ??= listen(globalThis as unknown as EventTarget, "online", () => state.outcome === "offline" && again());
  };

  return {
    get state() {
      return state;
    },
    go: (address) => {
      if (!closed && address !== asked) show(address);
    },
    again,
    prefetch,
    onIntent: (root, addressOf = (link) => link.pathname + link.search) => {
      let soon: ReturnType<typeof setTimeout> | undefined;
      const act = (event: Event) => {
        const link = (event.target as Element | null)?.closest?.("a[href]");
        clearTimeout(soon);
        if (link) soon = setTimeout(() => prefetch(addressOf(link as HTMLAnchorElement)), 65);
      };
      const ends = [listen(root, "pointerover", act), listen(root, "focusin", act)];
      const end = () => {
        clearTimeout(soon);
        for (const one of ends) one();
        undo.delete(end);
      };
      undo.add(end);
      return end;
    },
    subscribe: (listener) => {
      if (closed) return () => undefined;
      listeners.add(listener);
      wake();
      return () => {
        listeners.delete(listener);
        if (listeners.size > 0) return;
        awake?.();
        awake = undefined;
      };
    },
    close: () => {
      closed = true;
      turn++;
      clearTimeout(timer);
      stop?.abort();
      for (const kept of ready.values()) kept.stop.abort();
      for (const end of [...undo]) end();
      ready.clear();
      listeners.clear();
    },
  };
}
