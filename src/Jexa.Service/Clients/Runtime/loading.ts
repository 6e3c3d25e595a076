/** JSON with its whole numbers unrounded. */
function parse(given: string): unknown {
  const mark = "\u0000whole ";
  const marked = given.replace(/"(?:[^"\\]|\\.)*"|-?[0-9]{16,}(?![0-9.eE])/g, (part) => (part.startsWith('"') ? part : `"\\u0000whole ${part}"`));
  return JSON.parse(marked, (_, value: unknown) => (typeof value === "string" && value.startsWith(mark) ? narrow(BigInt(value.slice(mark.length))) : value));
}

type Members = { readonly [name: string]: unknown };
const isMembers = (value: unknown): value is Members => typeof value === "object" && value !== null && !Array.isArray(value);
interface Answer { readonly status: number; readonly body: Members | null; readonly address: string; readonly version: string | null; readonly after: number; readonly strange: string | null }

async function ask(service: Service, method: string, address: string, sent: unknown, version: string | null, signal: AbortSignal | undefined): Promise<Answer | null> {
  const headers: Record<string, string> = { accept: "application/json" };
  if (sent !== undefined) headers["content-type"] = method === "PATCH" ? "application/merge-patch+json" : "application/json";
  if (version !== null) headers["if-match"] = version;
  let response: Response;
  let given: string;
  try {
    const body = sent === undefined ? null : JSON.stringify(sent, (_, value: unknown) => (typeof value === "bigint" ? `\u0000whole ${value}` : value)).replace(/"\\u0000whole (-?[0-9]+)"/g, "$1");
    response = await service.fetch(service.base + address, { method, headers, body, signal: signal ?? null, credentials: "same-origin" });
    given = await response.text();
  } catch (error) {
    if (signal?.aborted) throw error;
    return null;
  }
  let body: unknown = null;
  let strange: string | null = null;
  if (given !== "" && !/[/+]json\b/.test(response.headers.get("content-type") ?? "")) strange = `${response.status} with ${response.headers.get("content-type") ?? "something"} instead of JSON`;
  else if (given !== "") {
    try {
      body = parse(given);
    } catch {
      strange = "JSON that ends too early";
    }
  }
  const at = response.url === "" ? address : response.url.slice(response.url.indexOf("/", response.url.indexOf("//") + 2));
  return { status: response.status, body: isMembers(body) ? body : null, address: at, version: response.headers.get("etag"), after: Number(response.headers.get("retry-after")) || 5, strange };
}

function failure(answer: Answer, page: string): Failure {
  const body = answer.body ?? {};
  const detail = typeof body["detail"] === "string" ? body["detail"] : `The answer was ${answer.status}.`;
  const links = Array.isArray(body["links"]) ? (body["links"] as Link[]) : [];
  switch (body["outcome"]) {
    //{failure cases}
    default:
      return { outcome: "strange", detail: answer.strange ?? `“${page}” was asked for, and the answer was ${answer.status} ${String(body["outcome"] ?? "without an outcome")}.` };
  }
}

/** Whether an answer is what this file knows the page to answer with. */
function whyStrange(body: Members, page: string, fields: readonly string[]): string | null {
  if (body["page"] !== page) return `“${page}” was asked for, and “${String(body["page"])}” answered.`;
  for (const record of [body, ...(Array.isArray(body["records"]) ? (body["records"] as unknown[]) : [])]) {
    if (!isMembers(record) || (record !== body && !isMembers(record["fields"]))) return "A record has no fields.";
    const held = record["fields"];
    const lacking = isMembers(held) ? fields.find((field) => !(field in held)) : undefined;
    if (lacking !== undefined) return `The answer lacks the field “${lacking}”: the app file is of another version.`;
  }
  return null;
}

async function load<V>(service: Service, page: string, address: string, good: readonly string[], fields: readonly string[], options: Options | undefined): Promise<Loaded<V>> {
  const answer = await ask(service, "GET", address, undefined, null, options?.signal);
  return answer === null ? { outcome: "offline" } : taken<V>(answer, page, good, fields);
}
function taken<V>(answer: Answer, page: string, good: readonly string[], fields: readonly string[]): Loaded<V> {
  const body = answer.body;
  if (answer.strange !== null || body === null || !good.includes(String(body["outcome"]))) return failure(answer, page);
  const strange = whyStrange(body, page, fields);
  return strange !== null ? { outcome: "strange", detail: strange } : { outcome: "found", value: body as unknown as V, address: answer.address, version: answer.version };
}

async function send<V>(service: Service, page: string, method: string, address: string, sent: unknown, version: string | null, options: Options | undefined): Promise<Saved<V>> {
  const answer = await ask(service, method, address, sent, version, options?.signal);
  if (answer === null) return { outcome: "offline" };
  const body = answer.body ?? {};
  const detail = typeof body["detail"] === "string" ? body["detail"] : "";
  const faults = (Array.isArray(body["errors"]) ? (body["errors"] as { pointer: string; detail: string }[]) : []).map((one) => ({ field: decode(/^#\/fields\/(.*)$/.exec(one.pointer)?.[1] ?? "")?.replaceAll("~1", "/").replaceAll("~0", "~") || null, detail: one.detail }));
  if (answer.strange === null && (answer.status === 204 || body["outcome"] === "saved")) return { outcome: "saved", value: body as unknown as V, version: answer.version };
  switch (body["outcome"]) {
    //{refusal cases}
    default:
      return failure(answer, page);
  }
}

/** The choices of a form's field: those whose label contains a text, or the first few. */
export async function choicesOf(service: Service, page: string, field: string, find = "", options?: Options): Promise<Loaded<{ readonly choices: readonly { readonly value: string; readonly label: string }[]; readonly more: boolean }>> {
  const base = mount.map((segment) => `/${encode(segment)}`).join("");
  return load(service, page, `${base}/_jexa/app/choices/${encode(page)}/${encode(field)}${find === "" ? "" : `?find=${encode(find)}`}`, ["listed"], [], options);
}

interface Shape { readonly plan: Plan; readonly good: readonly string[]; readonly fields: readonly string[] }
const shapes = new Map<string, Shape>();
/** Called once for each page above. */
function shape(page: string, good: readonly string[], fields: readonly string[]): Shape {
  const plan = plans.find((one) => one.page === page);
  if (!plan) throw new Error(`There is no page “${page}”.`);
  const made = { plan, good, fields };
  shapes.set(page, made);
  return made;
}
function listPage<P, O extends string, F, I = Id>(name: string, fields: readonly string[]) {
  const { plan } = shape(name, ["listed"], fields);
  const address = (parameters: P & Wanted<O>) => addressOf(plan, parameters as Members, parameters as Members);
  return { name, address, load: (service: Service, parameters: P & Wanted<O>, options?: Options): Promise<Loaded<Listed<F, I>>> => load(service, name, address(parameters), ["listed"], fields, options) };
}
function detailPage<P, F, B, I = Id>(name: string, fields: readonly string[]) {
  const { plan } = shape(name, ["found"], fields);
  const address = (parameters: P) => addressOf(plan, parameters as Members);
  return { name, address, load: (service: Service, parameters: P, options?: Options): Promise<Loaded<Shown<F, B, I>>> => load(service, name, address(parameters), ["found"], fields, options) };
}
function textPage<P>(name: string) {
  const { plan } = shape(name, ["shown"], []);
  const address = (parameters: P) => addressOf(plan, parameters as Members);
  return { name, address, load: (service: Service, parameters: P, options?: Options): Promise<Loaded<Written>> => load(service, name, address(parameters), ["shown"], [], options) };
}
function editPage<P, F, W, I = Id>(name: string, fields: readonly string[], form: readonly Asked[]) {
  const { plan } = shape(name, ["found"], fields);
  const address = (parameters: P) => addressOf(plan, parameters as Members);
  return {
    name, form, address,
    load: (service: Service, parameters: P, options?: Options): Promise<Loaded<Held<F, I>>> => load(service, name, address(parameters), ["found"], fields, options),
    /** Changes some fields. `version` is what `load` gave: over a record that has changed since, nothing is saved. */
    save: (service: Service, parameters: P, changes: Partial<W>, version: string, options?: Options): Promise<Saved<Held<F, I>>> => send(service, name, "PATCH", address(parameters), { fields: changes }, version, options),
  };
}
function newPage<P, F, W>(name: string, fields: readonly string[], form: readonly Asked[]) {
  const { plan } = shape(name, ["shown"], fields);
  const address = (parameters: P) => addressOf(plan, parameters as Members);
  return {
    name, form, address,
    /** What the form begins with. */
    load: (service: Service, parameters: P, options?: Options): Promise<Loaded<Held<F>>> => load(service, name, address(parameters), ["shown"], fields, options),
    add: (service: Service, parameters: P, values: W, options?: Options): Promise<Saved<{ readonly id: string | null; readonly address: string }>> => send(service, name, "POST", address(parameters), { fields: values }, null, options),
  };
}
function deletePage<P, F, I = Id>(name: string, fields: readonly string[]) {
  const { plan } = shape(name, ["found"], fields);
  const address = (parameters: P) => addressOf(plan, parameters as Members);
  return {
    name, address,
    load: (service: Service, parameters: P, options?: Options): Promise<Loaded<Held<F, I>>> => load(service, name, address(parameters), ["found"], fields, options),
    remove: (service: Service, parameters: P, version: string, options?: Options): Promise<Saved<unknown>> => send(service, name, "DELETE", address(parameters), undefined, version, options),
  };
}

/** What an address says, as far as it alone tells. */
export type Read =
  | { readonly [P in PageName]: { readonly outcome: "page"; readonly page: P; readonly parameters: PageParameters[P]; /** What a list is asked for besides; nothing on other pages. */ readonly wanted: Wanted<string>; /** Jexa itself would write it so. */ readonly canonical: boolean; /** As Jexa would. */ readonly address: string } }[PageName]
  | { readonly outcome: "missing" | "malformed"; readonly page: PageName | null; readonly parameter: string | null }
  | { readonly outcome: "no-page" };
/** The controls of a list in its address. */
function wantedOf(address: string): Wanted<string> {
  const found: { [name: string]: string | number } = {};
  for (const [name, value] of split(address)?.query ?? []) {
    if (value === null || value === "" || name in found) continue;
    if (name === "size" && /^[0-9]{1,4}$/.test(value)) found[name] = Number(value);
    else if (name === "find" || name === "order" || name === "after" || name === "before") found[name] = value;
  }
  return found as Wanted<string>;
}
/** Reads an address back into its page and parameters. @param address A path with its query string, or a whole URL. */
export function read(address: string): Read {
  const { outcome, page, parameter, values, canonical, address: written } = meaning(address);
  return (outcome === "page" ? { outcome, page, parameters: values, wanted: wantedOf(address), canonical, address: written } : outcome === "no-page" ? { outcome } : { outcome, page, parameter }) as unknown as Read;
}
