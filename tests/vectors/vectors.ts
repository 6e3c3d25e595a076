// Written from the app “Vectors” by: jexa client typescript. Do not change it; write it again.
// It needs nothing else. Begin with:  const service = connect("http://127.0.0.1:7440");  then  pages.….load(service, { … })
/* eslint-disable */

/* ---- What the pages of this app take and give. ---- */

/** Lists things: `/things{?kind*,state}` */
export interface ThingsParameters {
  readonly kind?: readonly string[] | undefined;
  readonly state?: "empty" | "filled" | undefined;
}
export interface ThingsFields {
  readonly code: string;
  readonly id: Whole;
  readonly name: string | null;
  readonly kind: string | null;
  readonly made_on: Day;
  readonly size: Decimal | null;
}

/** One thing: `/things/{id}` */
export interface ThingParameters {
  readonly id: Whole;
}
export interface ThingFields {
  readonly id: Whole;
  readonly name: string | null;
  readonly code: string;
  readonly kind: string | null;
  readonly made_on: Day;
  readonly size: Decimal | null;
  readonly small: Whole | null;
}

/** Changes one thing: `/things/{id}/edit` */
export interface ThingEditParameters {
  readonly id: Whole;
}
export interface ThingEditFields {
  readonly name: string | null;
  readonly code: string;
  readonly kind: string | null;
  readonly made_on: Day;
  readonly size: Decimal | null;
  readonly small: Whole | null;
}
export interface ThingEditChanges {
  readonly name: string | null;
  readonly code: string;
  readonly kind: string | null;
  readonly made_on: Day;
  readonly size: Decimal | number | null;
  readonly small: Whole | null;
}

/** Adds one thing: `/things/new{?kind}` */
export interface ThingNewParameters {
  readonly kind?: string | undefined;
}
export interface ThingNewFields {
  readonly name: string | null;
  readonly code: string | null;
  readonly kind: string | null;
  readonly made_on: Day | null;
  readonly size: string | null;
  readonly small: Whole | null;
}
export interface ThingNewChanges {
  readonly name?: string | null;
  readonly code: string;
  readonly kind?: string | null;
  readonly made_on: Day;
  readonly size?: Decimal | number | null;
  readonly small?: Whole | null;
}

/** Lists things: `/things/made{?year}` */
export interface OfYearParameters {
  readonly year: number;
}
export interface OfYearFields {
  readonly code: string;
  readonly id: Whole;
  readonly name: string | null;
  readonly kind: string | null;
  readonly made_on: Day;
  readonly size: Decimal | null;
}

/** Lists things: `/things/made{?year,month}` */
export interface OfMonthParameters {
  readonly year: number;
  readonly month: Month;
}
export interface OfMonthFields {
  readonly code: string;
  readonly id: Whole;
  readonly name: string | null;
  readonly kind: string | null;
  readonly made_on: Day;
  readonly size: Decimal | null;
}

/** Lists things: `/sized{?least,most,small}` */
export interface SizedParameters {
  readonly least?: Decimal | number | undefined;
  readonly most?: Decimal | number | undefined;
  readonly small?: Whole | undefined;
}
export interface SizedFields {
  readonly code: string;
  readonly id: Whole;
  readonly name: string | null;
  readonly kind: string | null;
  readonly made_on: Day;
  readonly size: Decimal | null;
}

/** One thing: `/lookup{?code}` */
export interface LookupParameters {
  readonly code: string;
}
export interface LookupFields {
  readonly id: Whole;
  readonly name: string | null;
  readonly code: string;
  readonly kind: string | null;
  readonly made_on: Day;
  readonly size: Decimal | null;
  readonly small: Whole | null;
}

/** Lists words: `/words` */
export interface WordsParameters {
}
export interface WordsFields {
  readonly slug: string;
  readonly form: string;
}

/** One word: `/words/{slug}` */
export interface WordParameters {
  readonly slug: string;
}
export interface WordFields {
  readonly slug: string;
  readonly form: string;
}

/** A text: `/words/about` */
export interface WordAboutParameters {
}

/** One word: `/files/no-{slug}.html` */
export interface FileParameters {
  readonly slug: string;
}
export interface FileFields {
  readonly slug: string;
  readonly form: string;
}

/** One word: `/forms/{form}` */
export interface FormParameters {
  readonly form: string;
}
export interface FormFields {
  readonly slug: string;
  readonly form: string;
}

/** One word: `/mix/{slug}` */
export interface MixBareParameters {
  readonly slug: string;
}
export interface MixBareFields {
  readonly slug: string;
  readonly form: string;
}

/** One word: `/mix/a-{slug}` */
export interface MixAParameters {
  readonly slug: string;
}
export interface MixAFields {
  readonly slug: string;
  readonly form: string;
}

/** One word: `/mix/a-b{slug}` */
export interface MixAbParameters {
  readonly slug: string;
}
export interface MixAbFields {
  readonly slug: string;
  readonly form: string;
}

/** One word: `/mix/{slug}-z/deep` */
export interface MixEndParameters {
  readonly slug: string;
}
export interface MixEndFields {
  readonly slug: string;
  readonly form: string;
}

/** One person: `/people/{id}` */
export interface PersonParameters {
  readonly id: Uuid;
}
export interface PersonFields {
  readonly id: Uuid;
}

/** One day: `/days/{day}` */
export interface DayParameters {
  readonly day: Day;
}
export interface DayFields {
  readonly day: Day;
}

/** Lists days: `/since/{from_day}` */
export interface DaysSinceParameters {
  readonly from_day: Day;
}
export interface DaysSinceFields {
  readonly day: Day;
}

/** One pair: `/pairs/{number}/{flag}` */
export interface PairParameters {
  readonly number: Whole;
  readonly flag: boolean;
}
export interface PairFields {
  readonly number: Whole;
  readonly flag: boolean;
}

/** Lists things: `/shared` */
export interface SharedParameters {
}
export interface SharedFields {
  readonly code: string;
  readonly id: Whole;
  readonly name: string | null;
  readonly kind: string | null;
  readonly made_on: Day;
  readonly size: Decimal | null;
}

/** One thing: `/shared{?thing}` */
export interface SharedThingParameters {
  readonly thing: Whole;
}
export interface SharedThingFields {
  readonly id: Whole;
  readonly name: string | null;
  readonly code: string;
  readonly kind: string | null;
  readonly made_on: Day;
  readonly size: Decimal | null;
  readonly small: Whole | null;
}

/** One word: `/shared{?word_slug}` */
export interface SharedWordParameters {
  readonly word_slug: string;
}
export interface SharedWordFields {
  readonly slug: string;
  readonly form: string;
}

/** A text: `/løk/50%25/{text}{?tone}` */
export interface NoteParameters {
  readonly text: string;
  readonly tone?: string | undefined;
}

export interface PageParameters {
  readonly things: ThingsParameters;
  readonly thing: ThingParameters;
  readonly "thing-edit": ThingEditParameters;
  readonly "thing-new": ThingNewParameters;
  readonly "of-year": OfYearParameters;
  readonly "of-month": OfMonthParameters;
  readonly sized: SizedParameters;
  readonly lookup: LookupParameters;
  readonly words: WordsParameters;
  readonly word: WordParameters;
  readonly "word-about": WordAboutParameters;
  readonly file: FileParameters;
  readonly form: FormParameters;
  readonly "mix-bare": MixBareParameters;
  readonly "mix-a": MixAParameters;
  readonly "mix-ab": MixAbParameters;
  readonly "mix-end": MixEndParameters;
  readonly person: PersonParameters;
  readonly day: DayParameters;
  readonly "days-since": DaysSinceParameters;
  readonly pair: PairParameters;
  readonly shared: SharedParameters;
  readonly "shared-thing": SharedThingParameters;
  readonly "shared-word": SharedWordParameters;
  readonly note: NoteParameters;
}

export interface PageValues {
  readonly things: Listed<ThingsFields>;
  readonly thing: Shown<ThingFields, never>;
  readonly "thing-edit": Held<ThingEditFields>;
  readonly "thing-new": Held<ThingNewFields>;
  readonly "of-year": Listed<OfYearFields>;
  readonly "of-month": Listed<OfMonthFields>;
  readonly sized: Listed<SizedFields>;
  readonly lookup: Shown<LookupFields, never>;
  readonly words: Listed<WordsFields>;
  readonly word: Shown<WordFields, never>;
  readonly "word-about": Written;
  readonly file: Shown<FileFields, never>;
  readonly form: Shown<FormFields, never>;
  readonly "mix-bare": Shown<MixBareFields, never>;
  readonly "mix-a": Shown<MixAFields, never>;
  readonly "mix-ab": Shown<MixAbFields, never>;
  readonly "mix-end": Shown<MixEndFields, never>;
  readonly person: Shown<PersonFields, never>;
  readonly day: Shown<DayFields, never>;
  readonly "days-since": Listed<DaysSinceFields>;
  readonly pair: Shown<PairFields, never, IdOf<"number" | "flag">>;
  readonly shared: Listed<SharedFields>;
  readonly "shared-thing": Shown<SharedThingFields, never>;
  readonly "shared-word": Shown<SharedWordFields, never>;
  readonly note: Written;
}
export type PageName = keyof PageParameters;

/* ---- What follows is the same in every file: values, addresses, loading, saving, watching. ---- */

/** A whole number; a bigint if it is beyond 2^53, so that none is ever rounded. */
export type Whole = number | bigint;
/** An exact decimal number, as text. */
export type Decimal = string;
/** A day, such as 2024-02-29. */
export type Day = `${number}-${number}-${number}`;
/** A moment with its offset, such as 2024-02-29T14:30:00Z. */
export type Moment = `${number}-${number}-${number}T${string}`;
/** A UUID, such as 0b5ad0f2-6c0e-4b39-9f0a-3d2f7f1c9e54. */
export type Uuid = `${string}-${string}-${string}-${string}-${string}`;
export type Month = 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9 | 10 | 11 | 12;
/** An ID as in addresses; null if no address can carry it. */
export type Id = string | null;
/** An ID of several parameters, one text each. */
export type IdOf<P extends string> = { readonly [parameter in P]: string } | null;

/** Another record, as a field shows it; its members are null if it does not exist or may not be seen. */
export interface Reference<I = Id> { readonly id?: I; readonly address?: string | null; readonly label: string | null }
export interface Picture { readonly name: string; readonly address: string | null }
/** A recording or another file. */
export interface StoredFile { readonly name: string; readonly address: string | null }
export interface Link { readonly page: string; readonly text: string; readonly address: string }
export interface Total { readonly count: number; /** False if counting stopped: there are more. */ readonly exact: boolean }
export interface Entry<F, I = Id> { readonly id?: I; readonly address?: string | null; readonly fields: F; readonly links?: readonly Link[] }
export interface Side { readonly title: string; readonly exact: boolean; readonly whole: boolean; readonly failed?: true; readonly all?: string; readonly values: readonly { readonly label: string; readonly address: string | null; readonly count: number; readonly current: boolean }[] }
export interface Block<R extends string, F, I = Id> { readonly record: R; readonly title: string; readonly notice?: string; readonly failed?: true; readonly total?: Total; readonly records?: readonly Entry<F, I>[]; readonly all?: string | null }

export interface Listed<F, I = Id> {
  readonly outcome: "listed"; readonly page: string; readonly title: string; readonly total: Total; readonly from?: number; readonly notice?: string;
  readonly records: readonly Entry<F, I>[]; readonly first: string | null; readonly prev: string | null; readonly next: string | null; readonly last: string | null;
  readonly add?: string; readonly find?: string; readonly order: string; readonly orders: readonly string[]; readonly size: number; readonly sizes: readonly number[];
  readonly sides?: readonly Side[]; readonly trail?: readonly Link[];
}
export interface Shown<F, B, I = Id> {
  readonly outcome: "found"; readonly page: string; readonly title: string; readonly id: I; readonly address: string | null; readonly fields: F; readonly links: readonly Link[];
  readonly list?: string; readonly prev: string | null; readonly next: string | null; readonly prev_text: string | null; readonly next_text: string | null; readonly trail?: readonly Link[]; readonly related?: readonly B[];
}
/** A record's own fields, by which it is changed. */
export interface Held<F, I = Id> { readonly outcome: "found" | "saved" | "shown"; readonly page: string; readonly id?: I; readonly address?: string | null; readonly fields: F; readonly links?: readonly Link[] }
export interface Written { readonly outcome: "shown"; readonly page: string; readonly title: string; /** Markdown. */ readonly text: string }

/** How a visit ended that shows nothing. `detail` is a sentence for people. */
export type Failure =
  | { readonly outcome: "missing" | "malformed"; readonly parameter: string | null; readonly detail: string; readonly links: readonly Link[] }
  /** gone: The record was deleted. */
  | { readonly outcome: "unknown" | "gone"; readonly detail: string; readonly links: readonly Link[] }
  | { readonly outcome: "no-page" | "ambiguous" | "not-allowed" | "failed"; readonly detail: string }
  /** The source is away or slow: try again after the time given. */
  | { readonly outcome: "unavailable"; readonly detail: string; readonly after: number }
  /** Nothing answered. */
  | { readonly outcome: "offline" }
  /** What answered is not this app as this file knows it: another program, or another version of the app file. */
  | { readonly outcome: "strange"; readonly detail: string };
/** What a page shows, or how else the visit ended. `address` is the canonical one; `version` is what a change must name. */
export type Loaded<V> = { readonly outcome: "found"; readonly value: V; readonly address: string; readonly version: string | null } | Failure;
export interface Fault { /** Null for the whole. */ readonly field: string | null; readonly detail: string }
/** How a change ended. After anything but "saved" nothing was changed; after "offline" nobody knows. */
export type Saved<V> =
  | { readonly outcome: "saved"; readonly value: V; readonly version: string | null }
  | { readonly outcome: "invalid" | "refused" | "untrusted" | "unreadable"; readonly detail: string; readonly faults: readonly Fault[] }
  /** The record has changed since its version was read. */
  | { readonly outcome: "conflict"; readonly detail: string }
  | Failure;

/** A field as a form asks for it. */
export interface Asked {
  readonly name: string; readonly label: string;
  readonly input: "text" | "long-text" | "whole" | "number" | "boolean" | "date" | "moment" | "choice" | "reference" | "picture" | "secret";
  readonly required: boolean; readonly help?: string; readonly least?: string; readonly most?: string; readonly longest?: number; readonly digits?: number; readonly form?: string; readonly example?: string;
  readonly choices?: readonly { readonly value: string; readonly label: string }[];
  /** What it begins with on the page of a new record. */ readonly begins?: string;
  /** The kind of record it leads to; `choicesOf` reads what can be chosen. */ readonly record?: string;
}
/** What every list can be asked besides its own parameters. */
export interface Wanted<O extends string> { readonly find?: string; readonly order?: O | `-${O}`; readonly size?: number; readonly after?: string; readonly before?: string }

/** Where an app is served. */
export interface Service { readonly base: string; readonly fetch: typeof fetch }
/** @param base The origin of the pages, such as http://127.0.0.1:7440; nothing for the page's own. */
export const connect = (base = "", use: typeof fetch = (...given) => fetch(...given)): Service => ({ base: base.replace(/\/+$/, ""), fetch: use });
export interface Options { readonly signal?: AbortSignal | undefined }

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
    case "missing":
    case "malformed":
      return { outcome: body["outcome"], parameter: typeof body["parameter"] === "string" ? body["parameter"] : null, detail, links };
    case "unknown":
    case "gone":
      return { outcome: body["outcome"], detail, links };
    case "no-page":
    case "ambiguous":
    case "not-allowed":
    case "failed":
      return { outcome: body["outcome"], detail };
    case "unavailable":
      return { outcome: body["outcome"], detail, after: answer.after };
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
    case "invalid":
    case "refused":
    case "untrusted":
    case "unreadable":
      return { outcome: body["outcome"], detail, faults };
    case "conflict":
      return { outcome: body["outcome"], detail };
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

/* ---- Watching: for screens that stay while their address changes. ---- */

/** What a screen shows at this moment: never anything of an address that it has left. First nothing ("waiting"); if that takes longer, "loading". */
export type Watched<N extends PageName> =
  | { readonly outcome: "idle" }
  | { readonly outcome: "waiting" | "loading"; readonly asked: string }
  | { readonly [P in N]: { readonly page: P; readonly asked: string; readonly parameters: PageParameters[P] } & Loaded<PageValues[P]> }[N]
  | ({ readonly page: null; readonly asked: string } & Failure);
export interface Watcher<N extends PageName> {
  readonly state: Watched<N>;
  /** Shows another address; the last one wins, and earlier loads are ended. The same address again does nothing. */
  readonly go: (address: string) => void;
  /** Loads the same address anew. */
  readonly again: () => void;
  /** Loads an address that somebody is about to go to. */
  readonly prefetch: (address: string) => void;
  /** Prefetches the links below an element that are pointed at or focused. */
  readonly onIntent: (root: EventTarget, addressOf?: (link: HTMLAnchorElement) => string) => () => void;
  readonly subscribe: (listener: () => void) => () => void;
  /** Ends whatever is under way; nobody is told anything any more. */
  readonly close: () => void;
}
export interface WatchOptions {
  /** For so many milliseconds "waiting" stands before "loading": 150. */ readonly grace?: number;
  /** An answer that came with the page itself, so that it is not asked for twice. */ readonly first?: { readonly address: string; readonly answer: unknown; readonly version?: string };
}

export function watch<N extends PageName>(service: Service, pages: readonly N[], options: WatchOptions = {}): Watcher<N> {
  type Done = Watched<N>;
  const fresh = 10_000;
  const listeners = new Set<() => void>();
  const ready = new Map<string, { readonly done: Promise<Done>; readonly since: number; readonly stop: AbortController }>();
  const undo = new Set<() => void>();
  let state: Done = { outcome: "idle" };
  let first = options.first;
  let asked: string | null = null;
  let turn = 0;
  let stop: AbortController | undefined;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let closed = false;

  const set = (next: Done) => {
    state = next;
    for (const listener of [...listeners]) listener();
  };
  const begin = async (address: string, signal: AbortSignal): Promise<Done> => {
    const at = meaning(address);
    const known = at.page !== null && (pages as readonly string[]).includes(at.page) ? shapes.get(at.page) : undefined;
    if (!known) return { page: null, asked: address, outcome: "no-page", detail: `No page that is watched has the address ${address}.` };
    const handed = first?.address === address ? first : undefined;
    if (handed) first = undefined;
    const loaded = handed
      ? taken({ status: 200, body: isMembers(handed.answer) ? handed.answer : null, address, version: handed.version ?? null, after: 5, strange: null }, known.plan.page, known.good, known.fields)
      : await load(service, known.plan.page, address, known.good, known.fields, { signal });
    return { page: known.plan.page, asked: address, parameters: at.values, ...loaded } as unknown as Done;
  };
  const take = (address: string): { done: Promise<Done>; stop: AbortController } => {
    const kept = ready.get(address);
    ready.delete(address);
    if (kept && performance.now() - kept.since < fresh) return kept;
    kept?.stop.abort();
    const own = new AbortController();
    return { done: begin(address, own.signal), stop: own };
  };
  const show = (address: string) => {
    const mine = ++turn;
    asked = address;
    clearTimeout(timer);
    stop?.abort();
    const taking = take(address);
    stop = taking.stop;
    set({ outcome: "waiting", asked: address });
    if (mine !== turn) return;
    timer = setTimeout(() => set({ outcome: "loading", asked: address }), options.grace ?? 150);
    void taking.done.then(
      (done) => {
        if (mine !== turn) return;
        clearTimeout(timer);
        set(done);
      },
      (error: unknown) => {
        // What was ended for another address says nothing; anything else is told, never thrown away.
        if (mine !== turn) return;
        clearTimeout(timer);
        set({ page: null, asked: address, outcome: "strange", detail: String(error) });
      },
    );
  };
  const again = () => {
    if (!closed && asked !== null) show(asked);
  };
  const prefetch = (address: string) => {
    if (closed || address === asked || ready.has(address)) return;
    for (const [other, kept] of [...ready]) {
      if (performance.now() - kept.since < fresh && ready.size < 20) continue;
      kept.stop.abort();
      ready.delete(other);
    }
    const own = new AbortController();
    const done = begin(address, own.signal);
    ready.set(address, { done, since: performance.now(), stop: own });
    // A prefetch that failed is no answer: who goes there asks anew.
    void done.then((one) => (one.outcome === "offline" || one.outcome === "unavailable" || one.outcome === "failed") && ready.delete(address), () => ready.delete(address));
  };
  const listen = (target: EventTarget, type: string, act: (event: Event) => void) => {
    target.addEventListener(type, act);
    const end = () => {
      target.removeEventListener(type, act);
      undo.delete(end);
    };
    undo.add(end);
    return end;
  };
  // Whoever nobody listens to listens to nobody: it can be forgotten without being closed.
  let awake: (() => void) | undefined;
  const wake = () => {
    if (typeof globalThis.addEventListener === "function") awake ??= listen(globalThis as unknown as EventTarget, "online", () => state.outcome === "offline" && again());
  };

  return {
    get state() {
      return state;
    },
    go: (address) => {
      if (!closed && address !== asked) show(address);
    },
    again,
    prefetch,
    onIntent: (root, addressOf = (link) => link.pathname + link.search) => {
      let soon: ReturnType<typeof setTimeout> | undefined;
      const act = (event: Event) => {
        const link = (event.target as Element | null)?.closest?.("a[href]");
        clearTimeout(soon);
        if (link) soon = setTimeout(() => prefetch(addressOf(link as HTMLAnchorElement)), 65);
      };
      const ends = [listen(root, "pointerover", act), listen(root, "focusin", act)];
      const end = () => {
        clearTimeout(soon);
        for (const one of ends) one();
        undo.delete(end);
      };
      undo.add(end);
      return end;
    },
    subscribe: (listener) => {
      if (closed) return () => undefined;
      listeners.add(listener);
      wake();
      return () => {
        listeners.delete(listener);
        if (listeners.size > 0) return;
        awake?.();
        awake = undefined;
      };
    },
    close: () => {
      closed = true;
      turn++;
      clearTimeout(timer);
      stop?.abort();
      for (const kept of ready.values()) kept.stop.abort();
      for (const end of [...undo]) end();
      ready.clear();
      listeners.clear();
    },
  };
}

/* ---- The pages of this app. ---- */

const mount: readonly string[] = [];
const home: string | null = "/things";
const plans: readonly Plan[] = [
  { page: "things", path: ["things"], parameters: [{ name: "kind", key: textKey(), optional: true, many: true }, { name: "state", key: wordKey("empty", "filled"), optional: true }] },
  { page: "thing", path: ["things", ["", "id", ""]], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }], was: [{ path: ["old", ["", "id", ".html"]], query: [] }, { path: ["older"], query: ["id"] }] },
  { page: "thing-edit", path: ["things", ["", "id", ""], "edit"], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "thing-new", path: ["things", "new"], parameters: [{ name: "kind", key: textKey(), optional: true }] },
  { page: "of-year", path: ["things", "made"], parameters: [{ name: "year", key: wholeKey(1n, 9998n, 4) }] },
  { page: "of-month", path: ["things", "made"], parameters: [{ name: "year", key: wholeKey(1n, 9998n, 4) }, { name: "month", key: wholeKey(1n, 12n), yearOf: "year" }] },
  { page: "sized", path: ["sized"], parameters: [{ name: "least", key: numberKey(false), optional: true }, { name: "most", key: numberKey(false), optional: true }, { name: "small", key: wholeKey(-9223372036854775808n, 9223372036854775807n), optional: true }] },
  { page: "lookup", path: ["lookup"], parameters: [{ name: "code", key: textKey(Infinity, /^(?:AV-[0-9]{4})$/ui) }] },
  { page: "words", path: ["words"], parameters: [] },
  { page: "word", path: ["words", ["", "slug", ""]], parameters: [{ name: "slug", key: textKey() }] },
  { page: "word-about", path: ["words", "about"], parameters: [] },
  { page: "file", path: ["files", ["no-", "slug", ".html"]], parameters: [{ name: "slug", key: textKey() }] },
  { page: "form", path: ["forms", ["", "form", ""]], parameters: [{ name: "form", key: textKey(12, /^(?:[a-z]{2,4}(-[0-9]+)?|x\.y\/z)$/u) }] },
  { page: "mix-bare", path: ["mix", ["", "slug", ""]], parameters: [{ name: "slug", key: textKey() }] },
  { page: "mix-a", path: ["mix", ["a-", "slug", ""]], parameters: [{ name: "slug", key: textKey() }] },
  { page: "mix-ab", path: ["mix", ["a-b", "slug", ""]], parameters: [{ name: "slug", key: textKey() }] },
  { page: "mix-end", path: ["mix", ["", "slug", "-z"], "deep"], parameters: [{ name: "slug", key: textKey() }] },
  { page: "person", path: ["people", ["", "id", ""]], parameters: [{ name: "id", key: uuidKey }] },
  { page: "day", path: ["days", ["", "day", ""]], parameters: [{ name: "day", key: dayKey }] },
  { page: "days-since", path: ["since", ["", "from_day", ""]], parameters: [{ name: "from_day", key: dayKey }] },
  { page: "pair", path: ["pairs", ["", "number", ""], ["", "flag", ""]], parameters: [{ name: "number", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }, { name: "flag", key: truthKey }] },
  { page: "shared", path: ["shared"], parameters: [] },
  { page: "shared-thing", path: ["shared"], parameters: [{ name: "thing", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "shared-word", path: ["shared"], parameters: [{ name: "word_slug", key: textKey() }] },
  { page: "note", path: ["løk", "50%", ["", "text", ""]], parameters: [{ name: "text", key: textKey(200) }, { name: "tone", key: textKey(200), optional: true }] },
];

export const pages = {
  /** Lists things: `/things{?kind*,state}` */
  things: listPage<ThingsParameters, "code" | "id" | "name" | "kind" | "made_on" | "size", ThingsFields>("things", ["code", "id", "name", "kind", "made_on", "size"]),
  /** One thing: `/things/{id}` */
  thing: detailPage<ThingParameters, ThingFields, never>("thing", ["id", "name", "code", "kind", "made_on", "size", "small"]),
  /** Changes one thing: `/things/{id}/edit` */
  thingEdit: editPage<ThingEditParameters, ThingEditFields, ThingEditChanges>("thing-edit", ["name", "code", "kind", "made_on", "size", "small"], [
    { name: "name", label: "Name", input: "text", required: false },
    { name: "code", label: "Code", input: "text", required: true, form: "AV-[0-9]{4}", example: "AV-0007" },
    { name: "kind", label: "Kind", input: "text", required: false },
    { name: "made_on", label: "Made on", input: "date", required: true },
    { name: "size", label: "Size", input: "number", required: false, digits: 3 },
    { name: "small", label: "Small", input: "whole", required: false },
  ]),
  /** Adds one thing: `/things/new{?kind}` */
  thingNew: newPage<ThingNewParameters, ThingNewFields, ThingNewChanges>("thing-new", ["name", "code", "kind", "made_on", "size", "small"], [
    { name: "name", label: "Name", input: "text", required: false },
    { name: "code", label: "Code", input: "text", required: true, form: "AV-[0-9]{4}", example: "AV-0007" },
    { name: "kind", label: "Kind", input: "text", required: false },
    { name: "made_on", label: "Made on", input: "date", required: true },
    { name: "size", label: "Size", input: "number", required: false, digits: 3 },
    { name: "small", label: "Small", input: "whole", required: false },
  ]),
  /** Lists things: `/things/made{?year}` */
  ofYear: listPage<OfYearParameters, "code" | "id" | "name" | "kind" | "made_on" | "size", OfYearFields>("of-year", ["code", "id", "name", "kind", "made_on", "size"]),
  /** Lists things: `/things/made{?year,month}` */
  ofMonth: listPage<OfMonthParameters, "code" | "id" | "name" | "kind" | "made_on" | "size", OfMonthFields>("of-month", ["code", "id", "name", "kind", "made_on", "size"]),
  /** Lists things: `/sized{?least,most,small}` */
  sized: listPage<SizedParameters, "code" | "id" | "name" | "kind" | "made_on" | "size", SizedFields>("sized", ["code", "id", "name", "kind", "made_on", "size"]),
  /** One thing: `/lookup{?code}` */
  lookup: detailPage<LookupParameters, LookupFields, never>("lookup", ["id", "name", "code", "kind", "made_on", "size", "small"]),
  /** Lists words: `/words` */
  words: listPage<WordsParameters, "slug" | "form", WordsFields>("words", ["slug", "form"]),
  /** One word: `/words/{slug}` */
  word: detailPage<WordParameters, WordFields, never>("word", ["slug", "form"]),
  /** A text: `/words/about` */
  wordAbout: textPage<WordAboutParameters>("word-about"),
  /** One word: `/files/no-{slug}.html` */
  file: detailPage<FileParameters, FileFields, never>("file", ["slug", "form"]),
  /** One word: `/forms/{form}` */
  form: detailPage<FormParameters, FormFields, never>("form", ["slug", "form"]),
  /** One word: `/mix/{slug}` */
  mixBare: detailPage<MixBareParameters, MixBareFields, never>("mix-bare", ["slug", "form"]),
  /** One word: `/mix/a-{slug}` */
  mixA: detailPage<MixAParameters, MixAFields, never>("mix-a", ["slug", "form"]),
  /** One word: `/mix/a-b{slug}` */
  mixAb: detailPage<MixAbParameters, MixAbFields, never>("mix-ab", ["slug", "form"]),
  /** One word: `/mix/{slug}-z/deep` */
  mixEnd: detailPage<MixEndParameters, MixEndFields, never>("mix-end", ["slug", "form"]),
  /** One person: `/people/{id}` */
  person: detailPage<PersonParameters, PersonFields, never>("person", ["id"]),
  /** One day: `/days/{day}` */
  day: detailPage<DayParameters, DayFields, never>("day", ["day"]),
  /** Lists days: `/since/{from_day}` */
  daysSince: listPage<DaysSinceParameters, "day", DaysSinceFields>("days-since", ["day"]),
  /** One pair: `/pairs/{number}/{flag}` */
  pair: detailPage<PairParameters, PairFields, never, IdOf<"number" | "flag">>("pair", ["number", "flag"]),
  /** Lists things: `/shared` */
  shared: listPage<SharedParameters, "code" | "id" | "name" | "kind" | "made_on" | "size", SharedFields>("shared", ["code", "id", "name", "kind", "made_on", "size"]),
  /** One thing: `/shared{?thing}` */
  sharedThing: detailPage<SharedThingParameters, SharedThingFields, never>("shared-thing", ["id", "name", "code", "kind", "made_on", "size", "small"]),
  /** One word: `/shared{?word_slug}` */
  sharedWord: detailPage<SharedWordParameters, SharedWordFields, never>("shared-word", ["slug", "form"]),
  /** A text: `/løk/50%25/{text}{?tone}` */
  note: textPage<NoteParameters>("note"),
};
