// In a preview only: tells the console where its frame is and what is pointed at. It selects, and never changes anything.
(() => {
  "use strict";

  const port = document.currentScript.dataset.console;
  const consoles = [`http://127.0.0.1:${port}`, `http://localhost:${port}`];
  let channel = null;
  let isPointing = false;

  const text = (element) => (element?.textContent ?? "").trim().slice(0, 80);

  const all = (selector) => [...document.querySelectorAll(selector)];

  // What an element belongs to: the kind of part, its number among its like, and the words on it.
  const partOf = (element) => {
    const within = (selector) => element.closest(selector);
    const block = within("section.block");
    if (block) return { kind: "block", index: Number(block.getAttribute("aria-labelledby")?.split("-")[1] ?? 0), text: "" };
    const side = within("nav.side");
    if (side) return { kind: "side", index: all("nav.side").indexOf(side), text: text(side.querySelector("h2")) };
    if (within("header.top nav")) return { kind: "menu", index: 0, text: "" };
    if (within("header.top, body > footer, .header, .footer")) return { kind: "frame", index: 0, text: "" };
    if (within("form.ask")) return { kind: "search", index: 0, text: "" };
    if (within("h1, .title")) return { kind: "heading", index: 0, text: "" };
    if (within("ul.links, .actions")) return { kind: "link", index: 0, text: text(within("a, li")) };
    if (within("p.add")) return { kind: "add", index: 0, text: "" };
    const cell = within("td, th");
    if (cell) {
      const head = cell.closest("table").querySelectorAll("thead th")[cell.cellIndex];
      return { kind: "column", index: cell.cellIndex, text: text(head ?? cell) };
    }

    const labelled = within("[data-label]");
    if (labelled) return { kind: "column", index: 0, text: labelled.dataset.label };
    const fact = within("dl > div");
    if (fact) {
      const index = [...fact.parentElement.children].indexOf(fact);
      return { kind: "column", index, text: text(fact.querySelector("dt")) };
    }

    const field = within("form label, form .field, form fieldset");
    if (field) return { kind: "field", index: 0, text: text(field.querySelector("span, legend, label") ?? field) };
    return null;
  };

  // The elements of a part, to be outlined.
  const elementsOf = ({ kind, index, text: words }) => {
    switch (kind) {
      case "block":
        return all("section.block").slice(index, index + 1);
      case "side":
        return all("nav.side").slice(index, index + 1);
      case "menu":
        return all("header.top nav");
      case "frame":
        return all("header.top, body > footer");
      case "search":
        return all("form.ask");
      case "heading":
        return all("h1");
      case "add":
        return all("p.add");
      case "link":
        return all("ul.links li, .actions a").filter((element) => text(element) === words);
      case "column": {
        const isOwn = (element) => !element.closest("section.block");
        const facts = all("dl.record > div").filter((element) => text(element.querySelector("dt")) === words);
        const heads = all("main table.list thead th").filter((element) => isOwn(element) && text(element) === words);
        const cells = all("[data-label]").filter((element) => isOwn(element) && element.dataset.label === words);
        return [...facts, ...heads, ...cells];
      }

      default:
        return [];
    }
  };

  const style = "2px solid #b3541e";
  let outlined = [];

  const outline = (elements) => {
    for (const element of outlined) element.style.outline = "";
    outlined = elements;
    for (const element of outlined) element.style.outline = style;
  };

  const hear = ({ data }) => {
    if (data?.mode !== undefined) {
      isPointing = data.mode === "point";
      document.documentElement.style.cursor = isPointing ? "crosshair" : "";
      if (!isPointing) outline([]);
    } else if (data?.outline !== undefined) {
      const elements = data.outline === null ? [] : elementsOf(data.outline);
      outline(elements);
      elements[0]?.scrollIntoView({ block: "nearest" });
    }
  };

  window.addEventListener("message", ({ data, source, origin, ports }) => {
    if (channel || source !== window.parent || !consoles.includes(origin) || data?.jexa !== "preview" || !ports[0]) return;
    channel = ports[0];
    channel.onmessage = hear;
    channel.postMessage({ at: location.pathname + location.search });
  });

  document.addEventListener(
    "click",
    (event) => {
      if (!isPointing || !channel) return;
      event.preventDefault();
      event.stopPropagation();
      const part = partOf(event.target);
      if (part) channel.postMessage({ chosen: part });
    },
    true,
  );

  document.addEventListener("mouseover", (event) => {
    if (!isPointing) return;
    const part = partOf(event.target);
    outline(part ? elementsOf(part) : []);
  });

  document.addEventListener("keydown", (event) => {
    if (event.key === "Escape" && channel) channel.postMessage({ key: "Escape" });
  });
})();
