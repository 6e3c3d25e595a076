// Written from the app “Alder Valley bridge register” by: jexa client typescript. Do not change it; write it again.
// It needs nothing else. Begin with:  const service = connect("http://127.0.0.1:7440");  then  pages.….load(service, { … })
/* eslint-disable */

/* ---- What the pages of this app take and give. ---- */

/** A text: `/about` */
export interface AboutParameters {
}

/** A text: `/not-found` */
export interface NotFoundParameters {
}

/** A text: `/find` */
export interface FindParameters {
}

/** Lists bridges: `/bridges{?kind*,status}` */
export interface BridgesParameters {
  readonly kind?: readonly string[] | undefined;
  readonly status?: string | undefined;
}
export interface BridgesFields {
  readonly name: string;
  readonly code: string;
  readonly district: Reference;
  readonly kind: string;
  readonly opened_on: Day | null;
  readonly length_m: Decimal;
}

/** Lists bridges: `/gallery` */
export interface GalleryParameters {
}
export interface GalleryFields {
  readonly photo: Picture | null;
  readonly name: string;
  readonly "district.name": string | null;
  readonly opened_on: Day | null;
}

/** One bridge: `/bridges/{id}` */
export interface BridgeParameters {
  readonly id: Whole;
}
export interface BridgeFields {
  readonly photo: Picture | null;
  readonly name: string;
  readonly code: string;
  readonly district: Reference;
  readonly status: string;
  readonly kind: string;
  readonly river: string;
  readonly opened_on: Day | null;
  readonly length_m: Decimal;
  readonly width_m: number | null;
  readonly carries_t?: Whole | null;
  readonly lanes: Whole;
  readonly toll: boolean;
  readonly toll_site?: string | null;
  readonly story: string | null;
  readonly note: string | null;
  readonly changed_at?: Moment | null;
}
export type BridgeValues =
  | Block<"span", { readonly span_no: Whole | null; readonly kind: string | null; readonly material: string | null; readonly length_m: Decimal | null }, IdOf<"bridge" | "number">>
  | Block<"inspection", { readonly held_on: Day | null; readonly inspector_id: Reference | null; readonly verdict: string | null; readonly score: Whole | null }>
  | Block<"photo", { readonly file: Picture | null; readonly caption: string | null; readonly taken_on: Day | null }>
  | Block<"gauge", { readonly place: string | null; readonly level_m: Decimal | null; readonly rising: boolean | null; readonly measured_at: Moment | null }>;

/** Lists bridges: `/posters` */
export interface PostersParameters {
}
export interface PostersFields {
  readonly photo: Picture | null;
  readonly name: string;
  readonly status: string;
  readonly opened_on: Day | null;
}

/** One bridge: `/posters/{id}` */
export interface PosterParameters {
  readonly id: Whole;
}
export interface PosterFields {
  readonly photo: Picture | null;
  readonly district: Reference;
  readonly kind: string;
  readonly opened_on: Day | null;
  readonly length_m: Decimal;
  readonly carries_t?: Whole | null;
  readonly story: string | null;
}
export type PosterValues =
  | Block<"inspection", { readonly held_on: Day | null; readonly verdict: string | null }>;

/** Changes one bridge: `/posters/{id}/edit` */
export interface PosterEditParameters {
  readonly id: Whole;
}
export interface PosterEditFields {
  readonly name: string;
  readonly status: string;
  readonly story: string | null;
}
export interface PosterEditChanges {
  readonly name: string;
  readonly status: "open" | "restricted" | "closed";
  readonly story: string | null;
}

/** Lists bridges: `/sketches` */
export interface SketchesParameters {
}
export interface SketchesFields {
  readonly name: string;
  readonly code: string;
  readonly kind: string;
  readonly length_m: Decimal;
}

/** One bridge: `/sketches/{id}` */
export interface BridgeSketchParameters {
  readonly id: Whole;
}
export interface BridgeSketchFields {
  readonly name: string;
  readonly code: string;
  readonly kind: string;
  readonly river: string;
  readonly length_m: Decimal;
  readonly opened_on: Day | null;
  readonly district: Reference;
}

/** Changes one bridge: `/bridges/{id}/edit` */
export interface BridgeEditParameters {
  readonly id: Whole;
}
export interface BridgeEditFields {
  readonly name: string;
  readonly code: string;
  readonly district: string;
  readonly status: string;
  readonly kind: string;
  readonly river: string;
  readonly opened_on: Day | null;
  readonly length_m: Decimal;
  readonly width_m: number | null;
  readonly carries_t: Whole | null;
  readonly lanes: Whole;
  readonly toll: boolean;
  readonly toll_site: string | null;
  readonly photo: string | null;
  readonly story: string | null;
  readonly note: string | null;
}
export interface BridgeEditChanges {
  readonly name: string;
  readonly code: string;
  readonly district: string;
  readonly status: "open" | "restricted" | "closed";
  readonly kind: "arch" | "beam" | "cable-stayed" | "footbridge" | "suspension" | "swing" | "truss" | "viaduct";
  readonly river: string;
  readonly opened_on: Day | null;
  readonly length_m: Decimal | number;
  readonly width_m: number | null;
  readonly carries_t: Whole | null;
  readonly lanes: Whole;
  readonly toll: boolean;
  readonly toll_site: string | null;
  readonly photo: string | null;
  readonly story: string | null;
  readonly note: string | null;
}

/** Adds one bridge: `/bridges/new` */
export interface BridgeNewParameters {
}
export interface BridgeNewFields {
  readonly name: string | null;
  readonly code: string | null;
  readonly district: string | null;
  readonly status: string | null;
  readonly kind: string | null;
  readonly river: string | null;
  readonly opened_on: Day | null;
  readonly length_m: string | null;
  readonly width_m: number | null;
  readonly carries_t: Whole | null;
  readonly lanes: Whole | null;
  readonly toll: boolean | null;
  readonly toll_site: string | null;
  readonly photo: string | null;
  readonly story: string | null;
  readonly note: string | null;
}
export interface BridgeNewChanges {
  readonly name: string;
  readonly code: string;
  readonly district: string;
  readonly status?: "open" | "restricted" | "closed";
  readonly kind: "arch" | "beam" | "cable-stayed" | "footbridge" | "suspension" | "swing" | "truss" | "viaduct";
  readonly river: string;
  readonly opened_on?: Day | null;
  readonly length_m: Decimal | number;
  readonly width_m?: number | null;
  readonly carries_t?: Whole | null;
  readonly lanes?: Whole;
  readonly toll?: boolean;
  readonly toll_site?: string | null;
  readonly photo?: string | null;
  readonly story?: string | null;
  readonly note?: string | null;
}

/** Deletes one bridge: `/bridges/{id}/delete` */
export interface BridgeDeleteParameters {
  readonly id: Whole;
}
export interface BridgeDeleteFields {
  readonly bridge_id: Whole;
  readonly code: string;
  readonly name: string;
  readonly district: string;
  readonly status: string;
  readonly kind: string;
  readonly river: string;
  readonly opened_on: Day | null;
  readonly length_m: Decimal;
  readonly width_m: number | null;
  readonly carries_t: Whole | null;
  readonly lanes: Whole;
  readonly toll: boolean;
  readonly photo: string | null;
  readonly toll_site: string | null;
  readonly story: string | null;
  readonly note: string | null;
  readonly added_at: Moment | null;
  readonly changed_at: Moment | null;
}

/** Lists gauges: `/gauges{?river}` */
export interface GaugesParameters {
  readonly river?: string | undefined;
}
export interface GaugesFields {
  readonly place: string | null;
  readonly river: string | null;
  readonly level_m: Decimal | null;
  readonly rising: boolean | null;
  readonly measured_at: Moment | null;
}

/** One gauge: `/gauges/{code}` */
export interface GaugeParameters {
  readonly code: string;
}
export interface GaugeFields {
  readonly code: string;
  readonly river: string | null;
  readonly place: string | null;
  readonly level_m: Decimal | null;
  readonly rising: boolean | null;
  readonly measured_at: Moment | null;
  readonly note: string | null;
}

/** Lists districts: `/districts` */
export interface DistrictsParameters {
}
export interface DistrictsFields {
  readonly name: string;
  readonly warden: string | null;
  readonly area_km2: number | null;
}

/** One district: `/districts/{district}` */
export interface DistrictParameters {
  readonly district: string;
}
export interface DistrictFields {
  readonly slug: string;
  readonly name: string;
  readonly warden: string | null;
  readonly area_km2: number | null;
  readonly note: string | null;
}
export type DistrictValues =
  | Block<"bridge", { readonly name: string | null; readonly kind: string | null; readonly opened_on: Day | null }>
  | Block<"notice", never>;

/** Changes one district: `/districts/{district}/edit` */
export interface DistrictEditParameters {
  readonly district: string;
}
export interface DistrictEditFields {
  readonly slug: string;
  readonly name: string;
  readonly warden: string | null;
  readonly area_km2: number | null;
  readonly note: string | null;
}
export interface DistrictEditChanges {
  readonly slug: string;
  readonly name: string;
  readonly warden: string | null;
  readonly area_km2: number | null;
  readonly note: string | null;
}

/** Adds one district: `/new-district` */
export interface DistrictNewParameters {
}
export interface DistrictNewFields {
  readonly slug: string | null;
  readonly name: string | null;
  readonly warden: string | null;
  readonly area_km2: number | null;
  readonly note: string | null;
}
export interface DistrictNewChanges {
  readonly slug: string;
  readonly name: string;
  readonly warden?: string | null;
  readonly area_km2?: number | null;
  readonly note?: string | null;
}

/** Deletes one district: `/districts/{district}/delete` */
export interface DistrictDeleteParameters {
  readonly district: string;
}
export interface DistrictDeleteFields {
  readonly slug: string;
  readonly name: string;
  readonly warden: string | null;
  readonly area_km2: number | null;
  readonly note: string | null;
}

/** Lists bridges: `/districts/{district}/bridges{?kind,opened_from,opened_to}` */
export interface DistrictBridgesParameters {
  readonly district: string;
  readonly kind?: string | undefined;
  readonly opened_from?: Day | undefined;
  readonly opened_to?: Day | undefined;
}
export interface DistrictBridgesFields {
  readonly name: string;
  readonly kind: string;
  readonly status: string;
  readonly opened_on: Day | null;
  readonly length_m: Decimal;
}

/** One bridge: `/lookup{?code}` */
export interface LookupParameters {
  readonly code: string;
}
export interface LookupFields {
  readonly name: string;
  readonly code: string;
  readonly district: Reference;
  readonly status: string;
  readonly kind: string;
  readonly opened_on: Day | null;
}

/** Lists spans: `/spans` */
export interface SpansParameters {
}
export interface SpansFields {
  readonly bridge_id: Reference;
  readonly span_no: Whole;
  readonly kind: string;
  readonly material: string;
  readonly length_m: Decimal;
  readonly "bridge_id.district.name": string | null;
}

/** Lists spans: `/bridges/{bridge}/spans` */
export interface BridgeSpansParameters {
  readonly bridge: Whole;
}
export interface BridgeSpansFields {
  readonly span_no: Whole;
  readonly kind: string;
  readonly material: string;
  readonly length_m: Decimal;
  readonly height_m: number | null;
}

/** One span: `/bridges/{bridge}/spans/{number}` */
export interface SpanParameters {
  readonly bridge: Whole;
  readonly number: Whole;
}
export interface SpanFields {
  readonly bridge_id: Reference;
  readonly span_no: Whole;
  readonly kind: string;
  readonly length_m: Decimal;
  readonly height_m: number | null;
  readonly material: string;
}
export type SpanValues =
  | Block<"defect", { readonly defect_id: Whole | null; readonly inspection_id: Reference | null; readonly kind: string | null; readonly severity: Whole | null }>;

/** Lists inspectors: `/inspectors` */
export interface InspectorsParameters {
}
export interface InspectorsFields {
  readonly name: string;
  readonly grade: string;
  readonly since: Day;
}

/** One inspector: `/inspectors/{id}` */
export interface InspectorParameters {
  readonly id: Uuid;
}
export interface InspectorFields {
  readonly inspector_id: Uuid;
  readonly name: string;
  readonly grade: string;
  readonly since: Day;
  readonly phone: string | null;
  readonly email: string | null;
}
export type InspectorValues =
  | Block<"inspection", { readonly held_on: Day | null; readonly bridge_id: Reference | null; readonly verdict: string | null }>;

/** Lists inspections: `/inspections` */
export interface InspectionsParameters {
}
export interface InspectionsFields {
  readonly held_on: Day;
  readonly bridge_id: Reference;
  readonly "bridge.district.name": string | null;
  readonly inspector_id: Reference | null;
  readonly verdict: string;
  readonly score: Whole | null;
}

/** Lists inspections: `/inspections{?year,month}` */
export interface InspectionsOfMonthParameters {
  readonly year: number;
  readonly month: Month;
}
export interface InspectionsOfMonthFields {
  readonly held_on: Day;
  readonly bridge_id: Reference;
  readonly "bridge.district.name": string | null;
  readonly inspector_id: Reference | null;
  readonly verdict: string;
  readonly score: Whole | null;
}

/** Lists inspections: `/inspections{?year}` */
export interface InspectionsOfYearParameters {
  readonly year: number;
}
export interface InspectionsOfYearFields {
  readonly held_on: Day;
  readonly bridge_id: Reference;
  readonly "bridge.district.name": string | null;
  readonly inspector_id: Reference | null;
  readonly verdict: string;
  readonly score: Whole | null;
}

/** Lists inspections: `/inspections/verdicts/{verdict}` */
export interface InspectionsByVerdictParameters {
  readonly verdict: string;
}
export interface InspectionsByVerdictFields {
  readonly held_on: Day;
  readonly bridge_id: Reference;
  readonly inspector_id: Reference | null;
  readonly score: Whole | null;
}

/** Lists inspections: `/bridges/{bridge}/inspections` */
export interface BridgeInspectionsParameters {
  readonly bridge: Whole;
}
export interface BridgeInspectionsFields {
  readonly held_on: Day;
  readonly inspector_id: Reference | null;
  readonly verdict: string;
  readonly score: Whole | null;
}

/** One inspection: `/inspections/{id}` */
export interface InspectionParameters {
  readonly id: Whole;
}
export interface InspectionFields {
  readonly inspection_id: Whole;
  readonly bridge_id: Reference;
  readonly inspector_id: Reference | null;
  readonly held_on: Day;
  readonly verdict: string;
  readonly score: Whole | null;
  readonly remark: string | null;
}
export type InspectionValues =
  | Block<"inspector", { readonly name: string | null; readonly grade: string | null; readonly since: Day | null; readonly phone: string | null; readonly email: string | null }>
  | Block<"defect", { readonly defect_id: Whole | null; readonly kind: string | null; readonly severity: Whole | null; readonly reported_at: Moment | null }>;

/** Changes one inspection: `/inspections/{id}/edit` */
export interface InspectionEditParameters {
  readonly id: Whole;
}
export interface InspectionEditFields {
  readonly bridge_id: Whole;
  readonly inspector_id: Uuid | null;
  readonly held_on: Day;
  readonly verdict: string;
  readonly score: Whole | null;
  readonly remark: string | null;
}
export interface InspectionEditChanges {
  readonly bridge_id: Whole;
  readonly inspector_id: Uuid | null;
  readonly held_on: Day;
  readonly verdict: "sound" | "watch" | "repair" | "close";
  readonly score: Whole | null;
  readonly remark: string | null;
}

/** Adds one inspection: `/inspections/new{?bridge}` */
export interface InspectionNewParameters {
  readonly bridge?: Whole | undefined;
}
export interface InspectionNewFields {
  readonly bridge_id: Whole | null;
  readonly inspector_id: Uuid | null;
  readonly held_on: Day | null;
  readonly verdict: string | null;
  readonly score: Whole | null;
  readonly remark: string | null;
}
export interface InspectionNewChanges {
  readonly bridge_id?: Whole;
  readonly inspector_id?: Uuid | null;
  readonly held_on?: Day;
  readonly verdict: "sound" | "watch" | "repair" | "close";
  readonly score?: Whole | null;
  readonly remark?: string | null;
}

/** Deletes one inspection: `/inspections/{id}/delete` */
export interface InspectionDeleteParameters {
  readonly id: Whole;
}
export interface InspectionDeleteFields {
  readonly inspection_id: Whole;
  readonly bridge_id: Whole;
  readonly inspector_id: Uuid | null;
  readonly held_on: Day;
  readonly verdict: string;
  readonly score: Whole | null;
  readonly remark: string | null;
}

/** One photo: `/photos/{photo}` */
export interface PhotoParameters {
  readonly photo: Whole;
}
export interface PhotoFields {
  readonly photo_id: Whole;
  readonly bridge_id: Reference;
  readonly file: Picture | null;
  readonly caption: string;
  readonly taken_on: Day | null;
}

/** Lists recordings: `/recordings` */
export interface RecordingsParameters {
}
export interface RecordingsFields {
  readonly title: string;
  readonly bridge_id: Reference;
  readonly made_on: Day;
  readonly sound: StoredFile | null;
}

/** One recording: `/recordings/{id}` */
export interface RecordingParameters {
  readonly id: Whole;
}
export interface RecordingFields {
  readonly sound: StoredFile | null;
  readonly bridge_id: Reference;
  readonly made_on: Day;
  readonly levels?: StoredFile | null;
}

/** Adds one photo: `/photos/new{?bridge}` */
export interface PhotoNewParameters {
  readonly bridge?: Whole | undefined;
}
export interface PhotoNewFields {
  readonly bridge_id: Whole | null;
  readonly file: string | null;
  readonly caption: string | null;
  readonly taken_on: Day | null;
}
export interface PhotoNewChanges {
  readonly bridge_id?: Whole;
  readonly file: string;
  readonly caption: string;
  readonly taken_on?: Day | null;
}

/** Lists defects: `/defects` */
export interface DefectsParameters {
}
export interface DefectsFields {
  readonly defect_id: Whole;
  readonly kind: string;
  readonly severity: Whole;
  readonly reported_at: Moment;
  readonly bridge_id: Reference;
  readonly mended_on: Day | null;
}

/** Lists defects: `/defects{?severity}` */
export interface DefectsOfSeverityParameters {
  readonly severity: Whole;
}
export interface DefectsOfSeverityFields {
  readonly defect_id: Whole;
  readonly kind: string;
  readonly reported_at: Moment;
  readonly bridge_id: Reference;
  readonly mended_on: Day | null;
}

/** One defect: `/defects{?defect}` */
export interface DefectParameters {
  readonly defect: Whole;
}
export interface DefectFields {
  readonly defect_id: Whole;
  readonly bridge_id: Reference;
  readonly span_no: Reference<IdOf<"bridge" | "number">>;
  readonly inspection_id: Reference | null;
  readonly kind: string;
  readonly severity: Whole;
  readonly reported_at: Moment;
  readonly mended_on: Day | null;
}

/** Changes one defect: `/defects/{defect}/edit` */
export interface DefectEditParameters {
  readonly defect: Whole;
}
export interface DefectEditFields {
  readonly bridge_id: Whole;
  readonly span_no: Whole;
  readonly inspection_id: Whole | null;
  readonly kind: string;
  readonly severity: Whole;
  readonly reported_at: Moment;
  readonly mended_on: Day | null;
}
export interface DefectEditChanges {
  readonly bridge_id: Whole;
  readonly span_no: Whole;
  readonly inspection_id: Whole | null;
  readonly kind: string;
  readonly severity: Whole;
  readonly reported_at: Moment;
  readonly mended_on: Day | null;
}

/** Adds one defect: `/defects/new{?bridge}` */
export interface DefectNewParameters {
  readonly bridge?: Whole | undefined;
}
export interface DefectNewFields {
  readonly bridge_id: Whole | null;
  readonly span_no: Whole | null;
  readonly inspection_id: Whole | null;
  readonly kind: string | null;
  readonly severity: Whole | null;
  readonly reported_at: Moment | null;
  readonly mended_on: Day | null;
}
export interface DefectNewChanges {
  readonly bridge_id?: Whole;
  readonly span_no: Whole;
  readonly inspection_id?: Whole | null;
  readonly kind: string;
  readonly severity: Whole;
  readonly reported_at?: Moment;
  readonly mended_on?: Day | null;
}

/** Deletes one defect: `/defects/{defect}/delete` */
export interface DefectDeleteParameters {
  readonly defect: Whole;
}
export interface DefectDeleteFields {
  readonly defect_id: Whole;
  readonly bridge_id: Whole;
  readonly span_no: Whole;
  readonly inspection_id: Whole | null;
  readonly kind: string;
  readonly severity: Whole;
  readonly reported_at: Moment;
  readonly mended_on: Day | null;
}

/** Lists tallies: `/tallies{?since}` */
export interface TalliesParameters {
  readonly since?: Day | undefined;
}
export interface TalliesFields {
  readonly district: Reference | null;
  readonly inspections: Whole | null;
  readonly mean_score: number | null;
  readonly worst_score: Whole | null;
}

/** One tally: `/tallies/{district}` */
export interface TallyParameters {
  readonly district: string;
}
export interface TallyFields {
  readonly district: Reference | null;
  readonly inspections: Whole | null;
  readonly mean_score: number | null;
  readonly worst_score: Whole | null;
}

/** One trial: `/trials/{trial}` */
export interface TrialParameters {
  readonly trial: string;
}
export interface TrialFields {
  readonly trial: string | null;
  readonly remark: string | number | boolean | null | null;
}

export interface PageParameters {
  readonly about: AboutParameters;
  readonly "not-found": NotFoundParameters;
  readonly find: FindParameters;
  readonly bridges: BridgesParameters;
  readonly gallery: GalleryParameters;
  readonly bridge: BridgeParameters;
  readonly posters: PostersParameters;
  readonly poster: PosterParameters;
  readonly "poster-edit": PosterEditParameters;
  readonly sketches: SketchesParameters;
  readonly "bridge-sketch": BridgeSketchParameters;
  readonly "bridge-edit": BridgeEditParameters;
  readonly "bridge-new": BridgeNewParameters;
  readonly "bridge-delete": BridgeDeleteParameters;
  readonly gauges: GaugesParameters;
  readonly gauge: GaugeParameters;
  readonly districts: DistrictsParameters;
  readonly district: DistrictParameters;
  readonly "district-edit": DistrictEditParameters;
  readonly "district-new": DistrictNewParameters;
  readonly "district-delete": DistrictDeleteParameters;
  readonly "district-bridges": DistrictBridgesParameters;
  readonly lookup: LookupParameters;
  readonly spans: SpansParameters;
  readonly "bridge-spans": BridgeSpansParameters;
  readonly span: SpanParameters;
  readonly inspectors: InspectorsParameters;
  readonly inspector: InspectorParameters;
  readonly inspections: InspectionsParameters;
  readonly "inspections-of-month": InspectionsOfMonthParameters;
  readonly "inspections-of-year": InspectionsOfYearParameters;
  readonly "inspections-by-verdict": InspectionsByVerdictParameters;
  readonly "bridge-inspections": BridgeInspectionsParameters;
  readonly inspection: InspectionParameters;
  readonly "inspection-edit": InspectionEditParameters;
  readonly "inspection-new": InspectionNewParameters;
  readonly "inspection-delete": InspectionDeleteParameters;
  readonly photo: PhotoParameters;
  readonly recordings: RecordingsParameters;
  readonly recording: RecordingParameters;
  readonly "photo-new": PhotoNewParameters;
  readonly defects: DefectsParameters;
  readonly "defects-of-severity": DefectsOfSeverityParameters;
  readonly defect: DefectParameters;
  readonly "defect-edit": DefectEditParameters;
  readonly "defect-new": DefectNewParameters;
  readonly "defect-delete": DefectDeleteParameters;
  readonly tallies: TalliesParameters;
  readonly tally: TallyParameters;
  readonly trial: TrialParameters;
}

export interface PageValues {
  readonly about: Written;
  readonly "not-found": Written;
  readonly find: Written;
  readonly bridges: Listed<BridgesFields>;
  readonly gallery: Listed<GalleryFields>;
  readonly bridge: Shown<BridgeFields, BridgeValues>;
  readonly posters: Listed<PostersFields>;
  readonly poster: Shown<PosterFields, PosterValues>;
  readonly "poster-edit": Held<PosterEditFields>;
  readonly sketches: Listed<SketchesFields>;
  readonly "bridge-sketch": Shown<BridgeSketchFields, never>;
  readonly "bridge-edit": Held<BridgeEditFields>;
  readonly "bridge-new": Held<BridgeNewFields>;
  readonly "bridge-delete": Held<BridgeDeleteFields>;
  readonly gauges: Listed<GaugesFields>;
  readonly gauge: Shown<GaugeFields, never>;
  readonly districts: Listed<DistrictsFields>;
  readonly district: Shown<DistrictFields, DistrictValues>;
  readonly "district-edit": Held<DistrictEditFields>;
  readonly "district-new": Held<DistrictNewFields>;
  readonly "district-delete": Held<DistrictDeleteFields>;
  readonly "district-bridges": Listed<DistrictBridgesFields>;
  readonly lookup: Shown<LookupFields, never>;
  readonly spans: Listed<SpansFields, IdOf<"bridge" | "number">>;
  readonly "bridge-spans": Listed<BridgeSpansFields, IdOf<"bridge" | "number">>;
  readonly span: Shown<SpanFields, SpanValues, IdOf<"bridge" | "number">>;
  readonly inspectors: Listed<InspectorsFields>;
  readonly inspector: Shown<InspectorFields, InspectorValues>;
  readonly inspections: Listed<InspectionsFields>;
  readonly "inspections-of-month": Listed<InspectionsOfMonthFields>;
  readonly "inspections-of-year": Listed<InspectionsOfYearFields>;
  readonly "inspections-by-verdict": Listed<InspectionsByVerdictFields>;
  readonly "bridge-inspections": Listed<BridgeInspectionsFields>;
  readonly inspection: Shown<InspectionFields, InspectionValues>;
  readonly "inspection-edit": Held<InspectionEditFields>;
  readonly "inspection-new": Held<InspectionNewFields>;
  readonly "inspection-delete": Held<InspectionDeleteFields>;
  readonly photo: Shown<PhotoFields, never>;
  readonly recordings: Listed<RecordingsFields>;
  readonly recording: Shown<RecordingFields, never>;
  readonly "photo-new": Held<PhotoNewFields>;
  readonly defects: Listed<DefectsFields>;
  readonly "defects-of-severity": Listed<DefectsOfSeverityFields>;
  readonly defect: Shown<DefectFields, never>;
  readonly "defect-edit": Held<DefectEditFields>;
  readonly "defect-new": Held<DefectNewFields>;
  readonly "defect-delete": Held<DefectDeleteFields>;
  readonly tallies: Listed<TalliesFields>;
  readonly tally: Shown<TallyFields, never>;
  readonly trial: Shown<TrialFields, never>;
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
const home: string | null = "/bridges";
const plans: readonly Plan[] = [
  { page: "about", path: ["about"], parameters: [] },
  { page: "not-found", path: ["not-found"], parameters: [] },
  { page: "find", path: ["find"], parameters: [] },
  { page: "bridges", path: ["bridges"], parameters: [{ name: "kind", key: textKey(), optional: true, many: true }, { name: "status", key: textKey(), optional: true }] },
  { page: "gallery", path: ["gallery"], parameters: [] },
  { page: "bridge", path: ["bridges", ["", "id", ""]], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "posters", path: ["posters"], parameters: [] },
  { page: "poster", path: ["posters", ["", "id", ""]], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "poster-edit", path: ["posters", ["", "id", ""], "edit"], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "sketches", path: ["sketches"], parameters: [] },
  { page: "bridge-sketch", path: ["sketches", ["", "id", ""]], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "bridge-edit", path: ["bridges", ["", "id", ""], "edit"], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "bridge-new", path: ["bridges", "new"], parameters: [] },
  { page: "bridge-delete", path: ["bridges", ["", "id", ""], "delete"], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "gauges", path: ["gauges"], parameters: [{ name: "river", key: textKey(), optional: true }] },
  { page: "gauge", path: ["gauges", ["", "code", ""]], parameters: [{ name: "code", key: textKey() }] },
  { page: "districts", path: ["districts"], parameters: [] },
  { page: "district", path: ["districts", ["", "district", ""]], parameters: [{ name: "district", key: textKey() }] },
  { page: "district-edit", path: ["districts", ["", "district", ""], "edit"], parameters: [{ name: "district", key: textKey() }] },
  { page: "district-new", path: ["new-district"], parameters: [] },
  { page: "district-delete", path: ["districts", ["", "district", ""], "delete"], parameters: [{ name: "district", key: textKey() }] },
  { page: "district-bridges", path: ["districts", ["", "district", ""], "bridges"], parameters: [{ name: "district", key: textKey() }, { name: "kind", key: textKey(), optional: true }, { name: "opened_from", key: dayKey, optional: true }, { name: "opened_to", key: dayKey, optional: true }] },
  { page: "lookup", path: ["lookup"], parameters: [{ name: "code", key: textKey(Infinity, /^(?:AV-[0-9]{4})$/ui) }] },
  { page: "spans", path: ["spans"], parameters: [] },
  { page: "bridge-spans", path: ["bridges", ["", "bridge", ""], "spans"], parameters: [{ name: "bridge", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "span", path: ["bridges", ["", "bridge", ""], "spans", ["", "number", ""]], parameters: [{ name: "bridge", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }, { name: "number", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "inspectors", path: ["inspectors"], parameters: [] },
  { page: "inspector", path: ["inspectors", ["", "id", ""]], parameters: [{ name: "id", key: uuidKey }] },
  { page: "inspections", path: ["inspections"], parameters: [] },
  { page: "inspections-of-month", path: ["inspections"], parameters: [{ name: "year", key: wholeKey(1n, 9998n, 4) }, { name: "month", key: wholeKey(1n, 12n), yearOf: "year" }] },
  { page: "inspections-of-year", path: ["inspections"], parameters: [{ name: "year", key: wholeKey(1n, 9998n, 4) }] },
  { page: "inspections-by-verdict", path: ["inspections", "verdicts", ["", "verdict", ""]], parameters: [{ name: "verdict", key: textKey() }] },
  { page: "bridge-inspections", path: ["bridges", ["", "bridge", ""], "inspections"], parameters: [{ name: "bridge", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "inspection", path: ["inspections", ["", "id", ""]], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "inspection-edit", path: ["inspections", ["", "id", ""], "edit"], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "inspection-new", path: ["inspections", "new"], parameters: [{ name: "bridge", key: wholeKey(-9223372036854775808n, 9223372036854775807n), optional: true }] },
  { page: "inspection-delete", path: ["inspections", ["", "id", ""], "delete"], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "photo", path: ["photos", ["", "photo", ""]], parameters: [{ name: "photo", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "recordings", path: ["recordings"], parameters: [] },
  { page: "recording", path: ["recordings", ["", "id", ""]], parameters: [{ name: "id", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "photo-new", path: ["photos", "new"], parameters: [{ name: "bridge", key: wholeKey(-9223372036854775808n, 9223372036854775807n), optional: true }] },
  { page: "defects", path: ["defects"], parameters: [] },
  { page: "defects-of-severity", path: ["defects"], parameters: [{ name: "severity", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "defect", path: ["defects"], parameters: [{ name: "defect", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "defect-edit", path: ["defects", ["", "defect", ""], "edit"], parameters: [{ name: "defect", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "defect-new", path: ["defects", "new"], parameters: [{ name: "bridge", key: wholeKey(-9223372036854775808n, 9223372036854775807n), optional: true }] },
  { page: "defect-delete", path: ["defects", ["", "defect", ""], "delete"], parameters: [{ name: "defect", key: wholeKey(-9223372036854775808n, 9223372036854775807n) }] },
  { page: "tallies", path: ["tallies"], parameters: [{ name: "since", key: dayKey, optional: true }] },
  { page: "tally", path: ["tallies", ["", "district", ""]], parameters: [{ name: "district", key: textKey() }] },
  { page: "trial", path: ["trials", ["", "trial", ""]], parameters: [{ name: "trial", key: textKey() }] },
];

export const pages = {
  /** A text: `/about` */
  about: textPage<AboutParameters>("about"),
  /** A text: `/not-found` */
  notFound: textPage<NotFoundParameters>("not-found"),
  /** A text: `/find` */
  find: textPage<FindParameters>("find"),
  /** Lists bridges: `/bridges{?kind*,status}` */
  bridges: listPage<BridgesParameters, "name" | "code" | "district" | "kind" | "opened_on" | "length_m", BridgesFields>("bridges", ["name", "code", "district", "kind", "opened_on", "length_m"]),
  /** Lists bridges: `/gallery` */
  gallery: listPage<GalleryParameters, "name" | "district.name" | "opened_on", GalleryFields>("gallery", ["photo", "name", "district.name", "opened_on"]),
  /** One bridge: `/bridges/{id}` */
  bridge: detailPage<BridgeParameters, BridgeFields, BridgeValues>("bridge", ["photo", "name", "code", "district", "status", "kind", "river", "opened_on", "length_m", "width_m", "lanes", "toll", "story", "note"]),
  /** Lists bridges: `/posters` */
  posters: listPage<PostersParameters, "name" | "status" | "opened_on", PostersFields>("posters", ["photo", "name", "status", "opened_on"]),
  /** One bridge: `/posters/{id}` */
  poster: detailPage<PosterParameters, PosterFields, PosterValues>("poster", ["photo", "district", "kind", "opened_on", "length_m", "story"]),
  /** Changes one bridge: `/posters/{id}/edit` */
  posterEdit: editPage<PosterEditParameters, PosterEditFields, PosterEditChanges>("poster-edit", ["name", "status", "story"], [
    { name: "name", label: "Name", input: "text", required: true },
    { name: "status", label: "Status", input: "choice", required: true, choices: [{ value: "open", label: "In use" }, { value: "restricted", label: "Restricted" }, { value: "closed", label: "Closed" }] },
    { name: "story", label: "Story", input: "long-text", required: false },
  ]),
  /** Lists bridges: `/sketches` */
  sketches: listPage<SketchesParameters, "name" | "code" | "kind" | "length_m", SketchesFields>("sketches", ["name", "code", "kind", "length_m"]),
  /** One bridge: `/sketches/{id}` */
  bridgeSketch: detailPage<BridgeSketchParameters, BridgeSketchFields, never>("bridge-sketch", ["name", "code", "kind", "river", "length_m", "opened_on", "district"]),
  /** Changes one bridge: `/bridges/{id}/edit` */
  bridgeEdit: editPage<BridgeEditParameters, BridgeEditFields, BridgeEditChanges>("bridge-edit", ["name", "code", "district", "status", "kind", "river", "opened_on", "length_m", "width_m", "carries_t", "lanes", "toll", "toll_site", "photo", "story", "note"], [
    { name: "name", label: "Name", input: "text", required: true },
    { name: "code", label: "Code", input: "text", required: true, help: "AV, a hyphen and four digits; no two bridges share one.", form: "AV-[0-9]{4}", example: "AV-0007" },
    { name: "district", label: "District", input: "reference", required: true, record: "district" },
    { name: "status", label: "Status", input: "choice", required: true, choices: [{ value: "open", label: "In use" }, { value: "restricted", label: "Restricted" }, { value: "closed", label: "Closed" }] },
    { name: "kind", label: "Kind", input: "choice", required: true, choices: [{ value: "arch", label: "Arch" }, { value: "beam", label: "Beam" }, { value: "cable-stayed", label: "Cable-stayed" }, { value: "footbridge", label: "Footbridge" }, { value: "suspension", label: "Suspension" }, { value: "swing", label: "Swing" }, { value: "truss", label: "Truss" }, { value: "viaduct", label: "Viaduct" }] },
    { name: "river", label: "River", input: "text", required: true },
    { name: "opened_on", label: "Opened", input: "date", required: false, least: "1500-01-01" },
    { name: "length_m", label: "Length (m)", input: "number", required: true, help: "In metres, from bank to bank.", least: "0.5", most: "5000", digits: 1 },
    { name: "width_m", label: "Width (m)", input: "number", required: false, least: "0.5", most: "100" },
    { name: "carries_t", label: "Carries (t)", input: "whole", required: false },
    { name: "lanes", label: "Lanes", input: "whole", required: true, least: "0", most: "12" },
    { name: "toll", label: "Toll bridge", input: "boolean", required: false },
    { name: "toll_site", label: "Pay the toll", input: "text", required: false },
    { name: "photo", label: "Photo", input: "picture", required: false },
    { name: "story", label: "Story", input: "long-text", required: false },
    { name: "note", label: "Note", input: "long-text", required: false },
  ]),
  /** Adds one bridge: `/bridges/new` */
  bridgeNew: newPage<BridgeNewParameters, BridgeNewFields, BridgeNewChanges>("bridge-new", ["name", "code", "district", "status", "kind", "river", "opened_on", "length_m", "width_m", "carries_t", "lanes", "toll", "toll_site", "photo", "story", "note"], [
    { name: "name", label: "Name", input: "text", required: true },
    { name: "code", label: "Code", input: "text", required: true, help: "AV, a hyphen and four digits; no two bridges share one.", form: "AV-[0-9]{4}", example: "AV-0007" },
    { name: "district", label: "District", input: "reference", required: true, record: "district" },
    { name: "status", label: "Status", input: "choice", required: true, choices: [{ value: "open", label: "In use" }, { value: "restricted", label: "Restricted" }, { value: "closed", label: "Closed" }], begins: "open" },
    { name: "kind", label: "Kind", input: "choice", required: true, choices: [{ value: "arch", label: "Arch" }, { value: "beam", label: "Beam" }, { value: "cable-stayed", label: "Cable-stayed" }, { value: "footbridge", label: "Footbridge" }, { value: "suspension", label: "Suspension" }, { value: "swing", label: "Swing" }, { value: "truss", label: "Truss" }, { value: "viaduct", label: "Viaduct" }] },
    { name: "river", label: "River", input: "text", required: true },
    { name: "opened_on", label: "Opened", input: "date", required: false, least: "1500-01-01" },
    { name: "length_m", label: "Length (m)", input: "number", required: true, help: "In metres, from bank to bank.", least: "0.5", most: "5000", digits: 1 },
    { name: "width_m", label: "Width (m)", input: "number", required: false, least: "0.5", most: "100" },
    { name: "carries_t", label: "Carries (t)", input: "whole", required: false },
    { name: "lanes", label: "Lanes", input: "whole", required: true, least: "0", most: "12", begins: "1" },
    { name: "toll", label: "Toll bridge", input: "boolean", required: false, begins: "false" },
    { name: "toll_site", label: "Pay the toll", input: "text", required: false },
    { name: "photo", label: "Photo", input: "picture", required: false },
    { name: "story", label: "Story", input: "long-text", required: false },
    { name: "note", label: "Note", input: "long-text", required: false },
  ]),
  /** Deletes one bridge: `/bridges/{id}/delete` */
  bridgeDelete: deletePage<BridgeDeleteParameters, BridgeDeleteFields>("bridge-delete", ["bridge_id", "code", "name", "district", "status", "kind", "river", "opened_on", "length_m", "width_m", "carries_t", "lanes", "toll", "photo", "toll_site", "story", "note", "added_at", "changed_at"]),
  /** Lists gauges: `/gauges{?river}` */
  gauges: listPage<GaugesParameters, "place" | "river" | "level_m" | "rising" | "measured_at", GaugesFields>("gauges", ["place", "river", "level_m", "rising", "measured_at"]),
  /** One gauge: `/gauges/{code}` */
  gauge: detailPage<GaugeParameters, GaugeFields, never>("gauge", ["code", "river", "place", "level_m", "rising", "measured_at", "note"]),
  /** Lists districts: `/districts` */
  districts: listPage<DistrictsParameters, "name" | "warden" | "area_km2", DistrictsFields>("districts", ["name", "warden", "area_km2"]),
  /** One district: `/districts/{district}` */
  district: detailPage<DistrictParameters, DistrictFields, DistrictValues>("district", ["slug", "name", "warden", "area_km2", "note"]),
  /** Changes one district: `/districts/{district}/edit` */
  districtEdit: editPage<DistrictEditParameters, DistrictEditFields, DistrictEditChanges>("district-edit", ["slug", "name", "warden", "area_km2", "note"], [
    { name: "slug", label: "Short name", input: "text", required: true },
    { name: "name", label: "Name", input: "text", required: true },
    { name: "warden", label: "Warden", input: "text", required: false },
    { name: "area_km2", label: "Area (km²)", input: "number", required: false },
    { name: "note", label: "Note", input: "text", required: false },
  ]),
  /** Adds one district: `/new-district` */
  districtNew: newPage<DistrictNewParameters, DistrictNewFields, DistrictNewChanges>("district-new", ["slug", "name", "warden", "area_km2", "note"], [
    { name: "slug", label: "Short name", input: "text", required: true },
    { name: "name", label: "Name", input: "text", required: true },
    { name: "warden", label: "Warden", input: "text", required: false },
    { name: "area_km2", label: "Area (km²)", input: "number", required: false },
    { name: "note", label: "Note", input: "text", required: false },
  ]),
  /** Deletes one district: `/districts/{district}/delete` */
  districtDelete: deletePage<DistrictDeleteParameters, DistrictDeleteFields>("district-delete", ["slug", "name", "warden", "area_km2", "note"]),
  /** Lists bridges: `/districts/{district}/bridges{?kind,opened_from,opened_to}` */
  districtBridges: listPage<DistrictBridgesParameters, "name" | "kind" | "status" | "opened_on" | "length_m", DistrictBridgesFields>("district-bridges", ["name", "kind", "status", "opened_on", "length_m"]),
  /** One bridge: `/lookup{?code}` */
  lookup: detailPage<LookupParameters, LookupFields, never>("lookup", ["name", "code", "district", "status", "kind", "opened_on"]),
  /** Lists spans: `/spans` */
  spans: listPage<SpansParameters, "bridge_id" | "span_no" | "kind" | "material" | "length_m" | "bridge_id.district.name", SpansFields, IdOf<"bridge" | "number">>("spans", ["bridge_id", "span_no", "kind", "material", "length_m", "bridge_id.district.name"]),
  /** Lists spans: `/bridges/{bridge}/spans` */
  bridgeSpans: listPage<BridgeSpansParameters, "span_no" | "kind" | "material" | "length_m" | "height_m", BridgeSpansFields, IdOf<"bridge" | "number">>("bridge-spans", ["span_no", "kind", "material", "length_m", "height_m"]),
  /** One span: `/bridges/{bridge}/spans/{number}` */
  span: detailPage<SpanParameters, SpanFields, SpanValues, IdOf<"bridge" | "number">>("span", ["bridge_id", "span_no", "kind", "length_m", "height_m", "material"]),
  /** Lists inspectors: `/inspectors` */
  inspectors: listPage<InspectorsParameters, "name" | "grade" | "since", InspectorsFields>("inspectors", ["name", "grade", "since"]),
  /** One inspector: `/inspectors/{id}` */
  inspector: detailPage<InspectorParameters, InspectorFields, InspectorValues>("inspector", ["inspector_id", "name", "grade", "since", "phone", "email"]),
  /** Lists inspections: `/inspections` */
  inspections: listPage<InspectionsParameters, "held_on" | "bridge_id" | "bridge.district.name" | "inspector_id" | "verdict" | "score", InspectionsFields>("inspections", ["held_on", "bridge_id", "bridge.district.name", "inspector_id", "verdict", "score"]),
  /** Lists inspections: `/inspections{?year,month}` */
  inspectionsOfMonth: listPage<InspectionsOfMonthParameters, "held_on" | "bridge_id" | "bridge.district.name" | "inspector_id" | "verdict" | "score", InspectionsOfMonthFields>("inspections-of-month", ["held_on", "bridge_id", "bridge.district.name", "inspector_id", "verdict", "score"]),
  /** Lists inspections: `/inspections{?year}` */
  inspectionsOfYear: listPage<InspectionsOfYearParameters, "held_on" | "bridge_id" | "bridge.district.name" | "inspector_id" | "verdict" | "score", InspectionsOfYearFields>("inspections-of-year", ["held_on", "bridge_id", "bridge.district.name", "inspector_id", "verdict", "score"]),
  /** Lists inspections: `/inspections/verdicts/{verdict}` */
  inspectionsByVerdict: listPage<InspectionsByVerdictParameters, "held_on" | "bridge_id" | "inspector_id" | "score", InspectionsByVerdictFields>("inspections-by-verdict", ["held_on", "bridge_id", "inspector_id", "score"]),
  /** Lists inspections: `/bridges/{bridge}/inspections` */
  bridgeInspections: listPage<BridgeInspectionsParameters, "held_on" | "inspector_id" | "verdict" | "score", BridgeInspectionsFields>("bridge-inspections", ["held_on", "inspector_id", "verdict", "score"]),
  /** One inspection: `/inspections/{id}` */
  inspection: detailPage<InspectionParameters, InspectionFields, InspectionValues>("inspection", ["inspection_id", "bridge_id", "inspector_id", "held_on", "verdict", "score", "remark"]),
  /** Changes one inspection: `/inspections/{id}/edit` */
  inspectionEdit: editPage<InspectionEditParameters, InspectionEditFields, InspectionEditChanges>("inspection-edit", ["bridge_id", "inspector_id", "held_on", "verdict", "score", "remark"], [
    { name: "bridge_id", label: "Bridge", input: "reference", required: true, record: "bridge" },
    { name: "inspector_id", label: "Inspector", input: "reference", required: false, record: "inspector" },
    { name: "held_on", label: "Held on", input: "date", required: true, least: "1900-01-01" },
    { name: "verdict", label: "Verdict", input: "choice", required: true, choices: [{ value: "sound", label: "Sound" }, { value: "watch", label: "To be watched" }, { value: "repair", label: "To be repaired" }, { value: "close", label: "To be closed" }] },
    { name: "score", label: "Score", input: "whole", required: false, help: "0 to 100; empty where none was given.", least: "0", most: "100" },
    { name: "remark", label: "Remark", input: "long-text", required: false },
  ]),
  /** Adds one inspection: `/inspections/new{?bridge}` */
  inspectionNew: newPage<InspectionNewParameters, InspectionNewFields, InspectionNewChanges>("inspection-new", ["bridge_id", "inspector_id", "held_on", "verdict", "score", "remark"], [
    { name: "bridge_id", label: "Bridge", input: "reference", required: true, record: "bridge" },
    { name: "inspector_id", label: "Inspector", input: "reference", required: false, record: "inspector" },
    { name: "held_on", label: "Held on", input: "date", required: true, least: "1900-01-01" },
    { name: "verdict", label: "Verdict", input: "choice", required: true, choices: [{ value: "sound", label: "Sound" }, { value: "watch", label: "To be watched" }, { value: "repair", label: "To be repaired" }, { value: "close", label: "To be closed" }] },
    { name: "score", label: "Score", input: "whole", required: false, help: "0 to 100; empty where none was given.", least: "0", most: "100" },
    { name: "remark", label: "Remark", input: "long-text", required: false },
  ]),
  /** Deletes one inspection: `/inspections/{id}/delete` */
  inspectionDelete: deletePage<InspectionDeleteParameters, InspectionDeleteFields>("inspection-delete", ["inspection_id", "bridge_id", "inspector_id", "held_on", "verdict", "score", "remark"]),
  /** One photo: `/photos/{photo}` */
  photo: detailPage<PhotoParameters, PhotoFields, never>("photo", ["photo_id", "bridge_id", "file", "caption", "taken_on"]),
  /** Lists recordings: `/recordings` */
  recordings: listPage<RecordingsParameters, "title" | "bridge_id" | "made_on" | "sound", RecordingsFields>("recordings", ["title", "bridge_id", "made_on", "sound"]),
  /** One recording: `/recordings/{id}` */
  recording: detailPage<RecordingParameters, RecordingFields, never>("recording", ["sound", "bridge_id", "made_on"]),
  /** Adds one photo: `/photos/new{?bridge}` */
  photoNew: newPage<PhotoNewParameters, PhotoNewFields, PhotoNewChanges>("photo-new", ["bridge_id", "file", "caption", "taken_on"], [
    { name: "bridge_id", label: "Bridge", input: "reference", required: true, record: "bridge" },
    { name: "file", label: "Picture", input: "picture", required: true },
    { name: "caption", label: "Caption", input: "text", required: true },
    { name: "taken_on", label: "Taken on", input: "date", required: false },
  ]),
  /** Lists defects: `/defects` */
  defects: listPage<DefectsParameters, "defect_id" | "kind" | "severity" | "reported_at" | "bridge_id" | "mended_on", DefectsFields>("defects", ["defect_id", "kind", "severity", "reported_at", "bridge_id", "mended_on"]),
  /** Lists defects: `/defects{?severity}` */
  defectsOfSeverity: listPage<DefectsOfSeverityParameters, "defect_id" | "kind" | "reported_at" | "bridge_id" | "mended_on", DefectsOfSeverityFields>("defects-of-severity", ["defect_id", "kind", "reported_at", "bridge_id", "mended_on"]),
  /** One defect: `/defects{?defect}` */
  defect: detailPage<DefectParameters, DefectFields, never>("defect", ["defect_id", "bridge_id", "span_no", "inspection_id", "kind", "severity", "reported_at", "mended_on"]),
  /** Changes one defect: `/defects/{defect}/edit` */
  defectEdit: editPage<DefectEditParameters, DefectEditFields, DefectEditChanges>("defect-edit", ["bridge_id", "span_no", "inspection_id", "kind", "severity", "reported_at", "mended_on"], [
    { name: "bridge_id", label: "Bridge", input: "reference", required: true, record: "bridge" },
    { name: "span_no", label: "Span no", input: "whole", required: true },
    { name: "inspection_id", label: "Inspection", input: "reference", required: false, record: "inspection" },
    { name: "kind", label: "Kind", input: "text", required: true },
    { name: "severity", label: "Severity", input: "choice", required: true, least: "1", most: "4", choices: [{ value: "1", label: "Slight" }, { value: "2", label: "Noticeable" }, { value: "3", label: "Grave" }, { value: "4", label: "Dangerous" }] },
    { name: "reported_at", label: "Reported", input: "moment", required: true },
    { name: "mended_on", label: "Mended on", input: "date", required: false, help: "Empty as long as it is open." },
  ]),
  /** Adds one defect: `/defects/new{?bridge}` */
  defectNew: newPage<DefectNewParameters, DefectNewFields, DefectNewChanges>("defect-new", ["bridge_id", "span_no", "inspection_id", "kind", "severity", "reported_at", "mended_on"], [
    { name: "bridge_id", label: "Bridge", input: "reference", required: true, record: "bridge" },
    { name: "span_no", label: "Span no", input: "whole", required: true },
    { name: "inspection_id", label: "Inspection", input: "reference", required: false, record: "inspection" },
    { name: "kind", label: "Kind", input: "text", required: true },
    { name: "severity", label: "Severity", input: "choice", required: true, least: "1", most: "4", choices: [{ value: "1", label: "Slight" }, { value: "2", label: "Noticeable" }, { value: "3", label: "Grave" }, { value: "4", label: "Dangerous" }] },
    { name: "reported_at", label: "Reported", input: "moment", required: true },
    { name: "mended_on", label: "Mended on", input: "date", required: false, help: "Empty as long as it is open." },
  ]),
  /** Deletes one defect: `/defects/{defect}/delete` */
  defectDelete: deletePage<DefectDeleteParameters, DefectDeleteFields>("defect-delete", ["defect_id", "bridge_id", "span_no", "inspection_id", "kind", "severity", "reported_at", "mended_on"]),
  /** Lists tallies: `/tallies{?since}` */
  tallies: listPage<TalliesParameters, "district" | "inspections" | "mean_score" | "worst_score", TalliesFields>("tallies", ["district", "inspections", "mean_score", "worst_score"]),
  /** One tally: `/tallies/{district}` */
  tally: detailPage<TallyParameters, TallyFields, never>("tally", ["district", "inspections", "mean_score", "worst_score"]),
  /** One trial: `/trials/{trial}` */
  trial: detailPage<TrialParameters, TrialFields, never>("trial", ["trial", "remark"]),
};
