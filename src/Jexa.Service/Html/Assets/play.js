// Where a page says so: the end of its last recording leads to the next record, and the first recording there begins.
(() => {
  "use strict";

  const begin = "#play";
  const players = () => [...document.querySelectorAll("main video, main audio")];

  // A browser may refuse to begin by itself; then its controls are one key away.
  const play = (player) => player.play().catch(() => player.focus());

  document.addEventListener(
    "ended",
    (event) => {
      const all = players();
      const at = all.indexOf(event.target);
      if (at < 0) return;
      const next = document.querySelector("script[data-next]")?.dataset.next;
      if (all[at + 1]) play(all[at + 1]);
      else if (next) location.assign(next + begin);
    },
    true,
  );

  if (location.hash !== begin) return;
  history.replaceState(history.state, "", location.pathname + location.search);
  const first = players()[0];
  if (first) play(first);
})();
