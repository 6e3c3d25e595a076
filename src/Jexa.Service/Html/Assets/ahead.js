// Loads a page into the browser's cache when its link is pointed at. On the click the browser asks by ETag whether the page is
// still right, so that nothing old is ever shown.
(() => {
  "use strict";

  const patience = 100;
  const below = document.currentScript.dataset.below;
  const asked = new Map();
  let waiting = 0;
  let ending = new AbortController();

  const isPage = (link) =>
    link.origin === location.origin
    && link.pathname.startsWith(below)
    && !link.pathname.startsWith(below + "_jexa/")
    && link.pathname + link.search !== location.pathname + location.search
    && !link.target
    && !link.hasAttribute("download")
    // Forms are made anew at each visit.
    && !link.closest(".action, .links");

  const load = (link) => {
    // What was asked for a moment ago is in the cache, or may not be kept there.
    if (performance.now() - (asked.get(link.href) ?? -Infinity) < 30_000) return;
    asked.set(link.href, performance.now());
    fetch(link.href, { headers: { Accept: "text/html" }, priority: "low", signal: ending.signal })
      .then((answer) => answer.arrayBuffer())
      .catch(() => {});
  };

  const point = (event) => {
    clearTimeout(waiting);
    const link = event.target.closest?.("a[href]");
    // A click focuses its link as well: only the keyboard's focus points at it.
    if (event.type === "focusin" && !link?.matches(":focus-visible")) return;
    if (link && !navigator.connection?.saveData && isPage(link)) waiting = setTimeout(load, patience, link);
  };

  // What is being clicked is loaded by the click: nothing else asks for it at the same time.
  const end = () => {
    clearTimeout(waiting);
    ending.abort();
    ending = new AbortController();
  };

  addEventListener("pointerover", point, { passive: true });
  addEventListener("focusin", point);
  addEventListener("pointerdown", () => clearTimeout(waiting), { passive: true });
  addEventListener("click", end, { capture: true });
  addEventListener("pagehide", end);
})();
