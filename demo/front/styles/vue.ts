import { createApp, h, onScopeDispose, type Ref, ref, shallowRef, watchEffect } from "vue";
import { connect, type PageName, type Service, watch } from "../../clients/bridges.ts";

/** What a page shows at an address; every change of it is followed. */
export function usePage<N extends PageName>(service: Service, page: N, address: Ref<string>) {
  const watcher = watch(service, [page]);
  const now = shallowRef(watcher.state);
  watcher.subscribe(() => {
    now.value = watcher.state;
  });
  watchEffect(() => watcher.go(address.value));
  onScopeDispose(watcher.close);
  return now;
}

const address = ref(location.hash.slice(1));
addEventListener("hashchange", () => {
  address.value = location.hash.slice(1);
});
createApp({
  setup() {
    const now = usePage(connect(globalThis.jexaBase), "bridge", address);
    return () => h("span", now.value.outcome === "found" ? now.value.value.fields.name : now.value.outcome);
  },
}).mount("main");
