import type { Region } from "@/api/types";

export type Map1 = (v: number) => number;

/** A region as SVG path data through the two mappings of a drawing. */
export function regionPath(region: Region, X: Map1, Y: Map1): string {
  return [region.outer, ...(region.holes ?? [])]
    .map((ring) => `M${ring.map((p) => `${X(p[0]!)} ${Y(p[1]!)}`).join("L")}Z`)
    .join("");
}

/** Points as an open polyline. */
export function linePath(points: number[][], X: Map1, Y: Map1): string {
  return points.length ? `M${points.map((p) => `${X(p[0]!)} ${Y(p[1]!)}`).join("L")}` : "";
}
