// Helps with files in a form that works without it: shows a chosen picture, checks its size, tells how far sending is, and makes a
// record of each of several files.
(() => {
  "use strict";
  const form = document.querySelector("form[data-fill]");
  const inputs = form ? [...form.querySelectorAll("input[type=file]")] : [];
  if (inputs.length === 0) return;
  const size = (bytes) =>
    bytes < 1e6
      ? `${Math.ceil(bytes / 1e3)} kB`
      : `${(bytes / 1e6).toFixed(1)} MB`;

  const say = document.createElement("p");
  say.className = "hint sending";
  say.setAttribute("role", "status");
  const bar = document.createElement("progress");
  bar.hidden = true;
  bar.max = 1;
  bar.setAttribute("aria-label", "Sent");
  form.append(say, bar);

  for (const input of inputs) {
    if ("several" in input.dataset) input.multiple = true;
    const shown = document.createElement("div");
    shown.className = "chosen";
    input.after(shown);
    input.addEventListener("change", () => {
      for (const old of shown.querySelectorAll("img"))
        URL.revokeObjectURL(old.src);
      shown.replaceChildren();
      const large = [...input.files].find(
        (file) => file.size > Number(input.dataset.most),
      );
      input.setCustomValidity(
        large
          ? `“${large.name}” is larger than ${input.dataset.mostText}.`
          : "",
      );
      if (large) input.reportValidity();
      for (const file of input.files) {
        const line = document.createElement("p");
        line.textContent = `${file.name}, ${size(file.size)}`;
        if (/^image\/(png|jpeg|gif|webp|avif)$/.test(file.type)) {
          const picture = document.createElement("img");
          picture.className = "picture";
          picture.alt = `${file.name}, as it was chosen`;
          picture.src = URL.createObjectURL(file);
          shown.append(picture);
        }
        shown.append(line);
      }
      const drop =
        form.elements[input.name.replace("_jexa.file.", "_jexa.drop.")];
      if (drop && input.files.length > 0) drop.checked = false;
    });
  }

  const send = (data, told) =>
    new Promise((done, failed) => {
      const request = new XMLHttpRequest();
      request.open("POST", form.getAttribute("action"));
      request.setRequestHeader("Accept", "text/html");
      request.setRequestHeader("Jexa-Sent-By", "script");
      request.upload.onprogress = (event) => {
        if (event.lengthComputable) told(event.loaded / event.total);
      };
      request.onload = () => done(request);
      request.onerror = () => failed(new Error("The connection broke."));
      request.send(data);
    });

  const asPage = { headers: { Accept: "text/html" } };

  // The form as the service would give it now: each record needs a form of its own.
  const renewed = async (data) => {
    const page = new DOMParser().parseFromString(
      await (await fetch(form.getAttribute("action"), asPage)).text(),
      "text/html",
    );
    data.set("_jexa", page.querySelector("form[data-fill] [name=_jexa]").value);
  };

  // The answer takes the place of the page, as it would without script.
  const show = (html) => {
    document.open();
    document.write(html);
    document.close();
  };

  const again = (text) => {
    say.textContent = text;
    bar.hidden = true;
    dispatchEvent(new Event("pageshow"));
  };

  const sendAll = async (data, input, files) => {
    let place = "";
    for (const [at, file] of files.entries()) {
      if (at > 0) await renewed(data);
      if (input) data.set(input.name, file);
      const which =
        files.length > 1
          ? `${at + 1} of ${files.length}: ${file.name}`
          : "Sending";
      const request = await send(data, (part) => {
        bar.hidden = false;
        bar.value = part;
        say.textContent = `${which}, ${Math.round(part * 100)} %`;
      });
      place = request.getResponseHeader("Location");
      if (place) continue;
      if (files.length === 1) return show(request.responseText);
      const page = new DOMParser().parseFromString(
        request.responseText,
        "text/html",
      );
      const faults = [...page.querySelectorAll(".faults li")].map((one) =>
        one.textContent.trim(),
      );
      const rest = new DataTransfer();
      for (const left of files.slice(at)) rest.items.add(left);
      input.files = rest.files;
      input.dispatchEvent(new Event("change"));
      await renewed(data);
      form.elements._jexa.value = data.get("_jexa");
      return again(
        `${at} of ${files.length} were added. ${file.name}: ${faults.join(" ") || page.querySelector("h1")?.textContent}`,
      );
    }
    location.assign(place);
  };

  form.addEventListener("submit", (event) => {
    const chosen = inputs.filter((input) => input.files.length > 0);
    if (event.defaultPrevented || chosen.length === 0 || event.submitter?.name)
      return;
    event.preventDefault();
    const many = chosen.find((input) => input.files.length > 1);
    const files = [...(many ?? chosen[0]).files];
    sendAll(new FormData(form), many, many ? files : [files[0]]).catch(
      (trouble) => again(`${trouble.message} Nothing is lost: send it again.`),
    );
  });
})();
