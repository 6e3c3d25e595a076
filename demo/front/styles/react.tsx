import { useEffect, useMemo, useSyncExternalStore } from "react";
import { createRoot } from "react-dom/client";
import { connect, type PageName, type Service, watch } from "../../clients/bridges.ts";

/** What a page shows at an address; every change of it is followed. */
export function usePage<N extends PageName>(service: Service, page: N, address: string) {
  const watcher = useMemo(() => watch(service, [page]), [service, page]);
  useEffect(() => watcher.go(address), [watcher, address]);
  return useSyncExternalStore(watcher.subscribe, () => watcher.state);
}

const service = connect(globalThis.jexaBase);
function Bridge({ address }: { address: string }) {
  const now = usePage(service, "bridge", address);
  return <>{now.outcome === "found" ? now.value.fields.name : now.outcome}</>;
}
function App() {
  const address = useSyncExternalStore((tell) => {
    addEventListener("hashchange", tell);
    return () => removeEventListener("hashchange", tell);
  }, () => location.hash.slice(1));
  return <Bridge address={address} />;
}
createRoot(document.querySelector("main") as HTMLElement).render(<App />);
