// For developing: loads the page again when something that it is made of was saved. What somebody types is not thrown away.
(async () => {
  "use strict";

  const pause = 1000;
  const form = document.querySelector("form[data-fill]");
  let typed = false;
  form?.addEventListener("input", () => {
    typed = true;
  });

  let known = "";
  for (;;) {
    try {
      const place = new URL("fresh", document.querySelector("script[src$='/_jexa/fresh.js']").src);
      place.searchParams.set("of", known);
      const answer = await fetch(place, { headers: { Accept: "text/plain" } });
      const version = await answer.text();
      if (!answer.ok) throw new Error(`The answer was ${answer.status}.`);
      if (known && version !== known && !typed) location.reload();
      known = version;
    } catch {
      // The service is being started again.
      await new Promise((done) => setTimeout(done, pause));
    }
  }
})();
