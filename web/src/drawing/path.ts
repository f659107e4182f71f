import type { Region } from "@/api/types";

export type Map1 = (v: number) => number;

/** To a hundredth of a pixel: nobody sees less, and long numbers take long to write and to read. */
const short = (v: number) => Math.round(v * 100) / 100;
const at = (p: number[], X: Map1, Y: Map1) => `${short(X(p[0]!))} ${short(Y(p[1]!))}`;

/** A region as SVG path data through the two mappings of a drawing. */
export function regionPath(region: Region, X: Map1, Y: Map1): string {
  return [region.outer, ...(region.holes ?? [])]
    .map((ring) => `M${ring.map((p) => at(p, X, Y)).join("L")}Z`)
    .join("");
}

/** Points as an open polyline. */
export function linePath(points: number[][], X: Map1, Y: Map1): string {
  return points.length ? `M${points.map((p) => at(p, X, Y)).join("L")}` : "";
}
