/** No address of the page can carry these values. */
export class AddressError extends RangeError {}

interface Key { readonly read: (text: string) => readonly [unknown, boolean] | null; readonly write: (value: never) => string }
type Piece = string | readonly [before: string, parameter: string, behind: string];
interface Parameter { readonly name: string; readonly key: Key; readonly optional?: true; readonly many?: true; readonly yearOf?: string }
interface Plan { readonly page: string; readonly path: readonly Piece[]; readonly parameters: readonly Parameter[]; readonly was?: readonly { readonly path: readonly Piece[]; readonly query: readonly string[] }[] }
interface Place { readonly plan: Plan; readonly path: readonly Piece[]; readonly inPath: readonly string[]; readonly now: boolean }
interface Level { readonly literals: Map<string, Level>; readonly holes: { readonly before: string; readonly behind: string; readonly next: Level }[]; places: Place[] }

const fail = (sentence: string): never => { throw new AddressError(sentence); };
const narrow = (value: bigint): Whole => (Number.isSafeInteger(Number(value)) ? Number(value) : value);
const exact = (value: Whole): bigint => (typeof value === "bigint" || Number.isSafeInteger(value) ? BigInt(value) : fail(`${value} is no exact whole number.`));
const pure = (text: string): boolean => !/[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/.test(text) && !text.includes("\0");
const bytes = (text: string): number => new TextEncoder().encode(text).length;

const wholeKey = (min: bigint, max: bigint, width = 0): Key => ({
  read: (text) => {
    if (!/^[-+]?[0-9]+$/.test(text) || text.length > 64 || (width > 0 && text.length !== width)) return null;
    const value = BigInt(text);
    return value < min || value > max ? null : [narrow(value), text === value.toString().padStart(width, "0")];
  },
  write: (value: Whole) => exact(value).toString().padStart(width, "0"),
});
const numberKey = (isWhole: boolean): Key => ({
  read: (text) => {
    const parts = /^([-+]?)([0-9]*)(?:\.([0-9]*))?$/.exec(text);
    if (!parts || text.length > 64 || !/[0-9]$/.test(text) || parts[2] === "") return null;
    const [front, behind] = [(parts[2] ?? "").replace(/^0+/, ""), (parts[3] ?? "").replace(/0+$/, "")];
    if (front.length + behind.length > 28 || (isWhole && behind !== "")) return null;
    const value = (parts[1] === "-" && front + behind !== "" ? "-" : "") + (front || "0") + (behind && `.${behind}`);
    return [value, value === text];
  },
  write: (value: Decimal | number) => String(value),
});
const textKey = (longest = Infinity, form?: RegExp): Key => ({
  read: (given) => (bytes(given) > 4096 || given.length > longest || (form && !form.test(given)) ? null : [given, true]),
  write: (value: string) => value,
});
const uuidKey: Key = {
  read: (given) => {
    const digits = /^\{[0-9a-f-]{36}\}$/i.test(given) ? given.slice(1, -1) : given;
    if (!/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(digits) && !/^[0-9a-f]{32}$/i.test(given)) return null;
    const value = digits.toLowerCase().replaceAll("-", "").replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
    return [value, value === given];
  },
  write: (value: Uuid) => value,
};
const dayKey: Key = {
  read: (given) => {
    const parts = /^([0-9]{4})-([0-9]{2})-([0-9]{2})$/.exec(given);
    if (!parts) return null;
    const [year, month, date] = [Number(parts[1]), Number(parts[2]), Number(parts[3])];
    const days = month === 2 ? (year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28) : [4, 6, 9, 11].includes(month) ? 30 : 31;
    return year < 1 || month < 1 || month > 12 || date < 1 || date > days ? null : [given, true];
  },
  write: (value: Day) => value,
};
const truthKey: Key = { read: (given) => (/^(true|1)$/i.test(given) ? [true, given === "true"] : /^(false|0)$/i.test(given) ? [false, given === "false"] : null), write: (value: boolean) => String(value) };
const wordKey = (...words: string[]): Key => ({ read: (given) => (words.includes(given) ? [given, true] : null), write: (value: string) => value });

const decode = (part: string): string | null => {
  try {
    const decoded = decodeURIComponent(part);
    return decoded.includes("\0") ? null : decoded;
  } catch {
    return null;
  }
};
const encode = (part: string): string => encodeURIComponent(part).replace(/[!'()*]/g, (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`);
const folded = (name: string): string => name.replace(/[^\p{L}\p{Nd}]/gu, "").toLowerCase();
const isNear = (given: string, name: string): boolean => given !== name && folded(given) !== "" && folded(given) === folded(name);
const queryOf = (text: string): [string, string | null][] =>
  text.split("&").flatMap((pair) => {
    const at = pair.indexOf("=");
    const name = pair === "" ? null : decode((at < 0 ? pair : pair.slice(0, at)).replaceAll("+", " "));
    return name === null ? [] : [[name, at < 0 ? "" : decode(pair.slice(at + 1).replaceAll("+", " "))] as [string, string | null]];
  });

/** An address split up: null if it is none. */
function split(address: string): { segments: (string | null)[]; query: [string, string | null][]; outside: boolean; bare: boolean } | null {
  const origin = address.startsWith("/") ? "" : /^https?:\/\/[^/?#\\]*(?=\/)/i.exec(address)?.[0];
  if (origin === undefined) return null;
  const target = address.slice(origin.length);
  if (/[^!-~]|[\\#]/.test(target)) return null;
  const question = target.indexOf("?");
  const path = question < 0 ? target : target.slice(0, question);
  let segments = path.length <= 1 ? [] : path.slice(1).split("/").map((part) => (part.includes("%") ? decode(part) : part));
  if (segments.some((segment) => segment === "." || segment === "..")) return null;
  const outside = mount.some((segment, i) => segments[i] !== segment);
  segments = segments.slice(mount.length);
  const bare = mount.length > 0 && segments.length === 0;
  if (mount.length > 0 && segments.length === 1 && segments[0] === "") segments = [];
  return { segments, query: question < 0 ? [] : queryOf(target.slice(question + 1)), outside, bare };
}

const level = (): Level => ({ literals: new Map(), holes: [], places: [] });
let top: Level | undefined;
/** All pages by their paths: at each level a literal goes before a parameter with a longer prefix or suffix, that before a bare one. */
function table(): Level {
  if (top) return top;
  top = level();
  for (const plan of plans) {
    for (const [path, now] of [[plan.path, true] as const, ...(plan.was ?? []).map((old) => [old.path, false] as const)]) {
      let at = top;
      for (const piece of path) {
        if (typeof piece === "string") {
          const next = at.literals.get(piece) ?? level();
          at.literals.set(piece, next);
          at = next;
          continue;
        }
        const [before, , behind] = piece;
        const known = at.holes.find((hole) => hole.before === before && hole.behind === behind);
        const next = known?.next ?? level();
        if (!known) {
          const place = at.holes.findIndex((hole) => hole.before.length < before.length || (hole.before.length === before.length && hole.behind.length < behind.length));
          at.holes.splice(place < 0 ? at.holes.length : place, 0, { before, behind, next });
        }
        at = next;
      }
      at.places.push({ plan, path, inPath: path.flatMap((piece) => (typeof piece === "string" ? [] : [piece[1]])), now });
    }
  }
  return top;
}
function match(at: Level, segments: (string | null)[], depth: number, i = 0): Place[] {
  if (i === depth) return at.places;
  const segment = segments[i] ?? null;
  const literal = segment === null ? undefined : at.literals.get(segment);
  const found = literal ? match(literal, segments, depth, i + 1) : [];
  if (found.length > 0) return found;
  for (const { before, behind, next } of at.holes) {
    if (segment === null ? before + behind !== "" : segment.length < before.length + behind.length || !segment.startsWith(before) || !segment.endsWith(behind)) continue;
    const below = match(next, segments, depth, i + 1);
    if (below.length > 0) return below;
  }
  return [];
}

interface Meaning { readonly page: string | null; readonly outcome: "page" | "no-page" | "malformed" | "missing"; readonly parameter: string | null; readonly values: { readonly [name: string]: unknown }; readonly canonical: boolean; readonly address: string }
const meant = (outcome: Meaning["outcome"], page: string | null = null, parameter: string | null = null): Meaning => ({ outcome, page, parameter, values: {}, canonical: false, address: "" });

function meaning(address: string): Meaning {
  const target = split(address);
  if (!target) return meant("malformed");
  const { segments, query, bare } = target;
  if (target.outside || segments[0] === "_jexa") return meant("no-page");
  let places = match(table(), segments, segments.length);
  if (segments.length === 0 && places.length === 0) return home ? { ...meaning(home), canonical: false } : meant("no-page");
  let canonical = !bare || address.split("?")[0]?.endsWith("/") === true;
  if (segments.length > 0 && segments.at(-1) === "" && !segments.slice(0, -1).includes("")) {
    const without = match(table(), segments, segments.length - 1);
    if (without.length > 0) [places, canonical] = [without, false];
  }
  const needs = (place: Place) => place.plan.parameters.filter((parameter) => !parameter.optional && !place.inPath.includes(parameter.name)).map((parameter) => parameter.name);
  const inQuery = (place: Place) => place.plan.parameters.filter((parameter) => !place.inPath.includes(parameter.name)).map((parameter) => parameter.name);
  // A page whose parameter is nearly named goes before all others: reading it refuses the name.
  const misnamed = (place: Place) => places.length > 1 && query.some(([given]) => inQuery(place).some((name) => isNear(given, name)) && !places.some((other) => inQuery(other).includes(given)));
  const ranked = places.map((place) => ({ place, needs: needs(place), misnamed: misnamed(place), absent: needs(place).filter((name) => !query.some(([given]) => given === name)).length }))
    .sort((a, b) => Number(b.misnamed) - Number(a.misnamed) || Number(a.absent > 0) - Number(b.absent > 0) || a.absent - b.absent || b.needs.length - a.needs.length);
  const [first, second] = ranked;
  if (!first) return meant("no-page");
  const { plan, path, now } = first.place;
  if (second && !first.misnamed && first.absent === 0 && second.absent === 0 && first.needs.length === second.needs.length) return meant("malformed", plan.page, first.needs[0] ?? null);

  canonical &&= now;
  const values: { [name: string]: unknown } = {};
  let refused: Meaning | undefined;
  for (const { name, key, optional, many } of plan.parameters) {
    const at = path.findIndex((piece) => typeof piece !== "string" && piece[1] === name);
    const piece = path[at];
    const given: (string | null)[] = [];
    if (piece && typeof piece !== "string") {
      const segment = segments[at] ?? null;
      given.push(segment === null ? null : segment.slice(piece[0].length, segment.length - piece[2].length));
    } else {
      for (const [other, value] of query) {
        if (other === name) given.push(value);
        else if (isNear(other, name)) given.push(null);
        if (given.at(-1) === null && given.length > 0) break;
      }
    }
    const readings = given.map((one) => (one === null ? null : one === "" ? undefined : key.read(one)));
    const filled = readings.filter((one) => one !== undefined && one !== null);
    const seen = new Set<string>();
    const tooMany = many && readings.some((one) => seen.size === 50 || (one && seen.add(String(one[0])), false));
    if (readings.includes(null) || (!many && given.length > 1) || tooMany) refused ??= meant("malformed", plan.page, name);
    else if (filled.length === 0 && !optional) refused ??= meant("missing", plan.page, name);
    canonical &&= readings.every((one) => one?.[1] === true);
    if (many) {
      const distinct = [...new Map(filled.map((one) => [String(one[0]), one[0]])).values()];
      canonical &&= distinct.length === filled.length;
      if (distinct.length > 0) values[name] = distinct;
    } else if (filled[0]) values[name] = filled[0][0];
  }
  if (refused) return refused;
  for (const { name, yearOf } of plan.parameters) if (yearOf !== undefined && values[name] !== undefined && values[yearOf] === undefined) return meant("malformed", plan.page, name);
  const written = write(plan, values);
  return written === null ? meant("malformed", plan.page, plan.parameters[0]?.name ?? null) : { outcome: "page", page: plan.page, parameter: null, values, canonical, address: written };
}

/** The address for some values; null if no URL can carry one of them, or a required one is missing. */
function write(plan: Plan, values: { readonly [name: string]: unknown }): string | null {
  const textsOf = (name: string): (string | null)[] => {
    const parameter = plan.parameters.find((one) => one.name === name);
    const value = values[name];
    if (!parameter || value === undefined || value === null) return [];
    return (parameter.many ? (value as readonly unknown[]) : [value]).map((one) => {
      const given = parameter.key.write(one as never);
      return given === "" || !pure(given) || bytes(given) > 4096 || encode(given).length > 4096 ? null : given;
    });
  };
  let address = mount.map((segment) => `/${encode(segment)}`).join("");
  if (plan.path.length === 0) address += "/";
  const inPath = new Set<string>();
  for (const piece of plan.path) {
    if (typeof piece === "string") {
      address += `/${encode(piece)}`;
      continue;
    }
    inPath.add(piece[1]);
    const given = textsOf(piece[1])[0] ?? null;
    if (given === null || [".", ".."].includes(piece[0] + given + piece[2])) return null;
    address += `/${encode(piece[0])}${encode(given)}${encode(piece[2])}`;
  }
  let separator = "?";
  for (const { name, optional } of plan.parameters) {
    if (inPath.has(name)) continue;
    const given = textsOf(name);
    if (given.includes(null) || (given.length === 0 && !optional)) return null;
    for (const one of given) {
      address += `${separator}${name}=${encode(one ?? "")}`;
      separator = "&";
    }
  }
  return address;
}

function addressOf(plan: Plan, values: { readonly [name: string]: unknown }, wanted: { readonly [name: string]: unknown } = {}): string {
  const known: { [name: string]: unknown } = {};
  for (const { name } of plan.parameters) known[name] = values[name];
  const written = write(plan, known);
  const back = written === null ? null : meaning(written);
  if (written === null || back?.page !== plan.page || back.address !== written) return fail(`No address of “${plan.page}” can carry ${JSON.stringify(values, (_, one) => (typeof one === "bigint" ? one.toString() : one))}.`);
  const asked = ["find", "order", "size", "after", "before"].flatMap((name) => (wanted[name] === undefined || wanted[name] === "" ? [] : [`${name}=${encode(String(wanted[name]))}`]));
  return asked.length === 0 ? written : `${written}${written.includes("?") ? "&" : "?"}${asked.join("&")}`;
}
