// Shows that the next page is being loaded, once that takes longer than a moment.
(() => {
  "use strict";

  const patience = 200;
  let waiting = 0;

  const begin = () => {
    clearTimeout(waiting);
    waiting = setTimeout(() => document.documentElement.setAttribute("data-loading", ""), patience);
  };

  const end = () => {
    clearTimeout(waiting);
    document.documentElement.removeAttribute("data-loading");
  };

  // Others may still say that they handle it: they are asked first.
  addEventListener("click", (event) => {
    const link = event.target.closest?.("a[href]");
    if (!link || event.defaultPrevented || event.button !== 0 || event.ctrlKey || event.metaKey || event.shiftKey) return;
    if (link.origin !== location.origin || link.target || link.hasAttribute("download")) return;
    if (link.pathname === location.pathname && link.search === location.search && link.hash) return;
    begin();
  });
  addEventListener("submit", (event) => {
    if (!event.defaultPrevented) begin();
  });
  addEventListener("pageshow", end);
  addEventListener("pagehide", end);
})();
