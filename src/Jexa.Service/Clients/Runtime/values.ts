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
  //{failure types}
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
  //{refusal types}
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
