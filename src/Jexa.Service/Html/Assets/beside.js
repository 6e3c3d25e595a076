// List beside a record: a click in the list changes only the record. Without this script the links are ordinary ones.
(() => {
  "use strict";

  // Until the answer takes longer than this nothing is said of it.
  const patience = 150;
  let loading = null;

  const main = document.getElementById("main");
  const record = () => document.getElementById("record");
  const list = () => main.querySelector(".index ul");

  // The record of an address without what only says where the visitor comes from.
  const bare = (address) => {
    const url = new URL(address, location.href);
    url.searchParams.delete("from");
    return url.pathname + url.search;
  };

  const mark = (address) => {
    for (const link of list().querySelectorAll("a")) {
      const current = bare(link.href) === bare(address);
      link.parentElement.classList.toggle("current", current);
      if (current) link.setAttribute("aria-current", "true");
      else link.removeAttribute("aria-current");
    }
  };

  // The last click wins: whatever was asked for before is given up, and its answer, should it still come, is not shown.
  const show = async (address, push) => {
    loading?.abort();
    const mine = new AbortController();
    loading = mine;
    const slow = setTimeout(() => record().setAttribute("aria-busy", "true"), patience);
    try {
      const answer = await fetch(address, { headers: { Accept: "text/html" }, signal: mine.signal });
      const page = new DOMParser().parseFromString(await answer.text(), "text/html");
      const next = page.getElementById("record");
      if (loading !== mine) return;
      if (!next || answer.redirected) {
        location.assign(answer.redirected ? answer.url : address);
        return;
      }

      record().replaceWith(document.adoptNode(next));
      document.title = page.title;
      if (push) history.pushState({ beside: true }, "", address);
      mark(address);
      record().focus({ preventScroll: true });
    } catch (trouble) {
      if (trouble.name !== "AbortError" && loading === mine) location.assign(address);
    } finally {
      clearTimeout(slow);
      if (loading === mine) {
        loading = null;
        record().removeAttribute("aria-busy");
      }
    }
  };

  main.addEventListener("click", (event) => {
    const link = event.target.closest(".index li a, .steps a");
    if (!link || event.defaultPrevented || event.button !== 0 || event.metaKey || event.ctrlKey || event.shiftKey || event.altKey) return;
    event.preventDefault();
    show(link.href, true);
  });

  addEventListener("popstate", () => show(location.href, false));
  mark(location.href);
})();
