import { connect, watch } from "../../clients/bridges.ts";

const watcher = watch(connect(globalThis.jexaBase), ["bridge"]);
const main = document.querySelector("main") as HTMLElement;
watcher.subscribe(() => {
  const now = watcher.state;
  main.textContent = now.outcome === "found" ? now.value.fields.name : now.outcome;
});
const show = () => watcher.go(location.hash.slice(1));
addEventListener("hashchange", show);
show();
