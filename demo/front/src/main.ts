// A small front end of its own: it draws the list, the record and the form itself, and leaves addresses, loading, outcomes and saving to the
// file that "jexa client typescript" has written.
import { type Asked, type BridgeEditFields, choicesOf, connect, type Loaded, pages, type Saved, type Watched, watch } from "../../clients/bridges.ts";

declare global {
  var jexaBase: string | undefined;
}

const service = connect(globalThis.jexaBase ?? "http://127.0.0.1:7440");
const main = document.querySelector("main") as HTMLElement;
const watcher = watch(service, ["sketches", "bridge-sketch", "bridge-edit"]);
let said = "";

type Child = Node | string | null;
function make<K extends keyof HTMLElementTagNameMap>(name: K, attributes: Record<string, string> = {}, ...children: Child[]): HTMLElementTagNameMap[K] {
  const element = document.createElement(name);
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
  element.append(...children.filter((child) => child !== null));
  return element;
}
const link = (href: string, text: string) => make("a", { href }, text);

/** Shows another address without loading the page anew. */
function go(address: string) {
  if (address !== location.pathname + location.search) history.pushState(null, "", address);
  watcher.go(address);
}
document.addEventListener("click", (event) => {
  const anchor = (event.target as Element).closest("a");
  if (!anchor || anchor.origin !== location.origin || event.ctrlKey || event.metaKey || event.shiftKey || event.button !== 0) return;
  event.preventDefault();
  go(anchor.pathname + anchor.search);
});
addEventListener("popstate", () => watcher.go(location.pathname + location.search));
watcher.onIntent(document.body);
watcher.subscribe(() => draw(watcher.state));
go(location.pathname === "/" ? pages.sketches.address({}) : location.pathname + location.search);

/** Addresses of the register's pages as they are drawn here. */
const here = (address: string | null | undefined) => (address ?? "").replace(/^https?:\/\/[^/]+/, "");

function draw(state: Watched<"sketches" | "bridge-sketch" | "bridge-edit">) {
  const [title, ...content] = contents(state);
  document.title = typeof title === "string" ? `${title} · Bridge sketches` : "Bridge sketches";
  main.replaceChildren(...(title === null || title === undefined ? [] : [make("h1", { tabindex: "-1" }, title)]), ...(said ? [make("p", { role: "status" }, said)] : []), ...content.filter((child) => child !== null));
  if (state.outcome !== "waiting" && state.outcome !== "loading") said = "";
}

function contents(state: Watched<"sketches" | "bridge-sketch" | "bridge-edit">): Child[] {
  switch (state.outcome) {
    case "idle":
    case "waiting":
      return [];
    case "loading":
      return ["Loading …"];
    case "missing":
    case "malformed":
      return ["Not an address", make("p", {}, state.detail), make("p", {}, link("/sketches", "All bridges"))];
    case "unknown":
      return ["There is no such bridge", make("p", {}, state.detail), make("p", {}, link("/sketches", "All bridges"))];
    case "gone":
      return ["It is gone", make("p", {}, state.detail), make("p", {}, link("/sketches", "All bridges"))];
    case "unavailable":
      return ["Not just now", make("p", {}, state.detail), again()];
    case "offline":
      return ["Nothing answers", make("p", {}, "The register cannot be reached; it is asked again as soon as there is a network."), again()];
    case "no-page":
    case "not-allowed":
    case "ambiguous":
    case "failed":
    case "strange":
      return ["Something is wrong", make("p", {}, state.detail), again()];
    case "found":
      switch (state.page) {
        case "sketches": {
          const list = state.value;
          return [
            list.title,
            make("p", { class: "quiet" }, `${list.total.count} bridges`),
            make("ul", { class: "rows" }, ...list.records.map((record) => make("li", {}, record.id ? link(here(pages["bridgeSketch"].address({ id: Number(record.id) })), record.fields.name) : record.fields.name, make("span", { class: "quiet" }, `${record.fields.kind}, ${record.fields.length_m} m`)))),
            make("nav", { class: "walk", "aria-label": "Pages of the list" }, list.prev ? link(here(list.prev), "Previous page") : null, list.next ? link(here(list.next), "Next page") : null),
          ];
        }
        case "bridge-sketch": {
          const { fields, prev, next } = state.value;
          const rows: [string, string][] = [["Code", fields.code], ["Kind", fields.kind], ["River", fields.river], ["Length", `${fields.length_m} m`], ["Opened", fields.opened_on ?? "nobody knows"], ["District", fields.district?.label ?? "–"]];
          return [
            fields.name,
            sketch(Number(fields.length_m)),
            make("dl", {}, ...rows.flatMap(([name, value]) => [make("dt", {}, name), make("dd", {}, value)])),
            make("p", {}, link(pages.bridgeEdit.address({ id: state.parameters.id }), "Edit")),
            make("nav", { class: "walk", "aria-label": "Neighbours" }, prev ? link(here(prev), "Previous") : null, next ? link(here(next), "Next") : null, link("/sketches", "All bridges")),
          ];
        }
        case "bridge-edit":
          return [`Edit ${state.value.fields.name}`, form(state)];
      }
  }
}

function again() {
  const button = make("button", { type: "button" }, "Try again");
  button.addEventListener("click", () => watcher.again());
  return make("p", {}, button);
}

/** As many arches as the bridge is long. */
function sketch(length: number) {
  const arches = Math.max(1, Math.min(12, Math.round(length / 30)));
  const svg = document.createElementNS("http://www.w3.org/2000/svg", "svg");
  svg.setAttribute("viewBox", "0 0 600 100");
  svg.setAttribute("role", "img");
  svg.setAttribute("aria-label", `A bridge of ${arches} ${arches === 1 ? "arch" : "arches"}`);
  const path = document.createElementNS("http://www.w3.org/2000/svg", "path");
  const width = 560 / arches;
  path.setAttribute("d", `M20 30H580M20 40H580${Array.from({ length: arches }, (_, i) => `M${20 + i * width} 90Q${20 + (i + 0.5) * width} ${-10} ${20 + (i + 1) * width} 90`).join("")}`);
  path.setAttribute("fill", "none");
  path.setAttribute("stroke", "currentColor");
  path.setAttribute("stroke-width", "3");
  svg.append(path);
  return svg;
}

type Editing = Extract<Watched<"bridge-edit">, { outcome: "found" }> & Loaded<{ fields: BridgeEditFields }>;

/** A form made of nothing but what the contract says of its fields. */
function form(state: Editing) {
  const problems = make("div", {});
  const inputs = new Map<string, HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement>();
  const faults = new Map<string, HTMLElement>();
  const held = state.value.fields as unknown as Record<string, unknown>;
  const rows = pages.bridgeEdit.form.map((asked) => {
    const input = inputFor(asked, held[asked.name]);
    const fault = make("span", { class: "fault", id: `fault-${asked.name}` });
    input.setAttribute("aria-describedby", fault.id);
    inputs.set(asked.name, input);
    faults.set(asked.name, fault);
    return make("label", {}, asked.label, input, asked.help ? make("small", {}, asked.help) : null, fault);
  });
  const button = make("button", {}, "Save");
  const made = make("form", { novalidate: "" }, ...rows, button);
  made.addEventListener("submit", async (event) => {
    event.preventDefault();
    button.disabled = true;
    const changes = Object.fromEntries(pages.bridgeEdit.form.map((asked) => [asked.name, valueOf(asked, inputs.get(asked.name))] as const).filter(([name, value]) => value !== (held[name] ?? null)));
    const saved = await pages.bridgeEdit.save(service, state.parameters, changes, state.version ?? "*");
    button.disabled = false;
    tell(saved, problems, faults, inputs, Number(state.parameters.id));
  });
  return make("div", {}, problems, made, make("p", {}, link(here(pages.bridgeSketch.address({ id: state.parameters.id })), "Leave it as it is")));
}

function tell(saved: Saved<unknown>, problems: HTMLElement, faults: Map<string, HTMLElement>, inputs: Map<string, HTMLElement>, id: number) {
  for (const fault of faults.values()) fault.textContent = "";
  switch (saved.outcome) {
    case "saved":
      said = "Saved.";
      go(here(pages.bridgeSketch.address({ id })));
      return;
    case "invalid":
    case "refused":
      for (const { field, detail } of saved.faults) {
        const place = field === null ? undefined : faults.get(field);
        if (place) place.textContent = `${place.textContent} ${detail}`.trim();
      }
      problems.replaceChildren(make("p", { role: "alert" }, saved.detail));
      inputs.get(saved.faults.find((fault) => fault.field !== null)?.field ?? "")?.focus();
      return;
    case "conflict":
      problems.replaceChildren(make("p", { role: "alert" }, `Somebody else has changed this bridge meanwhile. ${saved.detail} `, link(location.pathname, "Look at it as it is now")));
      watcher.again();
      return;
    case "offline":
      problems.replaceChildren(make("p", { role: "alert" }, "Nothing answered: nobody knows whether it was saved. What you typed is still here."));
      return;
    default:
      problems.replaceChildren(make("p", { role: "alert" }, saved.detail));
  }
}

function inputFor(asked: Asked, value: unknown) {
  const given = value === null || value === undefined ? "" : String(value);
  if (asked.choices || asked.input === "reference") {
    const select = make("select", { name: asked.name });
    const fill = (choices: readonly { value: string; label: string }[]) => {
      if (!asked.required) select.append(new Option("–", ""));
      for (const choice of choices) select.append(new Option(choice.label, choice.value));
      if (given !== "" && !choices.some((choice) => choice.value === given)) select.append(new Option(given, given));
      select.value = given;
    };
    if (asked.choices) fill(asked.choices);
    else void choicesOf(service, "bridge-edit", asked.name).then((loaded) => fill(loaded.outcome === "found" ? loaded.value.choices : []));
    return select;
  }
  if (asked.input === "long-text") {
    const area = make("textarea", { name: asked.name, rows: "3" });
    area.value = given;
    return area;
  }
  const types = { whole: "number", number: "number", date: "date", moment: "datetime-local", boolean: "checkbox" };
  const type = types[asked.input as keyof typeof types] ?? "text";
  const input = make("input", { name: asked.name, type, ...(type === "number" ? { step: asked.input === "whole" ? "1" : "any" } : {}) });
  if (type === "checkbox") input.checked = value === true;
  else input.value = given;
  return input;
}

function valueOf(asked: Asked, input: HTMLElement | undefined): unknown {
  if (input instanceof HTMLInputElement && asked.input === "boolean") return input.checked;
  const text = (input as HTMLInputElement).value;
  if (text === "") return null;
  return asked.input === "whole" || (asked.input === "number" && asked.digits === undefined) ? Number(text) : text;
}
