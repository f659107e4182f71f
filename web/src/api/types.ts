import type { components } from "./schema";

type Schemas = components["schemas"];

export type Project = Schemas["Project"];
export type Plan = Schemas["Plan"];
export type Opened = Schemas["Opened"];
export type Listed = Schemas["Listed"];
export type Version = Schemas["Version"];
export type Compared = Schemas["Compared"];
export type LanState = Schemas["LanState"];
export type Paired = Schemas["Paired"];
export type Figure = Schemas["Figure"];
export type Step = Schemas["Step"];
export type Scene = Schemas["Scene"];
export type Handle = Schemas["Handle"];
export type Found = Omit<Schemas["Found"], "patch"> & { patch: Operation[] };
export type Why = Schemas["Why"];
export type Ask = Schemas["Ask"];
export type Place = Schemas["Place"];
export type Mark = Schemas["Mark"];
export type Quantity = Schemas["Quantity"];
export type Progress = Schemas["Progress"];
export type Cuts = Schemas["Cuts"];
export type ReadingsTable = Schemas["Table"];
export type Heard = Schemas["Heard"];
export type Finding = Schemas["Finding"];
export type Offer = Schemas["Offer"];
export type Remedies = Schemas["Remedies"];
export type StageState = Schemas["StageState"];
export type Region = Schemas["Region"];
export type CurveFile = Schemas["CurveFile"];
export type FileCurve = Schemas["FileCurve"];
export type PhotoRead = Schemas["PhotoRead"];
export type Starts = Schemas["Starts"];
export type Variants = Schemas["Variants"];
export type DeckPlan = Schemas["DeckPlan"];
export type ModuleView = Schemas["ModuleView"];
export type Field = Schemas["Field"];
export type Shape = Schemas["Shape"];
export type KindView = Schemas["KindView"];
export type Suggestion = Schemas["Suggestion"];
export type Part = Schemas["Part"];
export type SheetGroup = Schemas["SheetGroup"];
export type SheetView = Schemas["SheetView"];
export type RungView = Schemas["RungView"];
export type Ladder = Schemas["Ladder"];
export type VehicleKind = Schemas["VehicleKind"];

/** A reading of the laser on its way to the tape bar. */
export interface Shot {
  project: string;
  device: string;
  seq: number;
  mm: number;
  lost: number;
  simulated: boolean;
}

/** Points known in the scan and in the vehicle. */
export interface Pair {
  scan: [number, number, number];
  vehicle: [number, number, number];
}

export interface Conflict {
  pointer: string;
  theirs: unknown;
  yours: unknown;
}

/** RFC 9457, with what this server adds. */
export interface Problem {
  type: string;
  title: string;
  detail: string;
  pointer: string;
  allowed?: string;
  at?: number;
  status?: number;
  revision?: number;
  conflicts?: Conflict[];
}

/** One operation of a JSON Patch. */
export interface Operation {
  op: "add" | "replace" | "remove";
  path: string;
  value?: unknown;
}
