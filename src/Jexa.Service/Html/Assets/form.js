// Helps with a form that works without it: nothing typed is lost by leaving, nothing is sent twice, the first fault is at hand.
(() => {
  "use strict";
  const form = document.querySelector("form[data-fill], form.fill");
  if (!form) return;
  let sending = false;

  const content = () => {
    const fields = [...new FormData(form)].filter(([name]) => !name.startsWith("_jexa"));
    return JSON.stringify(fields);
  };

  const begun = content();
  const isUnsaved = () => "unsaved" in form.dataset || content() !== begun;

  addEventListener("beforeunload", (event) => {
    if (!sending && isUnsaved()) event.preventDefault();
  });

  form.addEventListener("submit", (event) => {
    if (sending) {
      event.preventDefault();
      return;
    }

    sending = true;

    // A disabled button is not sent; by then the form is.
    setTimeout(() => {
      form.setAttribute("aria-busy", "true");
      for (const button of form.querySelectorAll("button")) button.disabled = true;
    });
  });

  // Shown again from the browser's memory, the form can be used again.
  addEventListener("pageshow", () => {
    sending = false;
    form.removeAttribute("aria-busy");
    for (const button of form.querySelectorAll("button")) button.disabled = false;
  });

  // The way out without saving is meant.
  form.querySelector("a.leave")?.addEventListener("click", () => {
    sending = true;
  });

  const fault = form.querySelector("[aria-invalid]") ?? form.querySelector(".choose input") ?? document.querySelector(".faults");
  fault?.focus();
})();
