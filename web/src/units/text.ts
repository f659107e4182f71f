import type { Figure } from "@/api/types";
import type { Tape } from "@/api/client";

/** A figure in the project's system, with its unit where asked. */
export function say(figure: Figure | null | undefined, system: string, unit = false): string {
  if (!figure) return "";
  if (system === "in") return `${figure.inch}${unit ? " in" : "″"}`;
  return unit ? `${figure.mm} mm` : figure.mm;
}

/** A figure in both systems: the project's first. */
export function both(figure: Figure | null | undefined, system: string): string {
  if (!figure) return "";
  return system === "in"
    ? `${figure.inch}″ · ${figure.mm} mm`
    : `${figure.mm} mm · ${figure.inch}″`;
}

/** Both readings of a typed entry: millimetres, nearest mark, and how far off the mark. */
export function readOut(tape: Tape | null): string {
  if (!tape || "error" in tape) return "";
  const off =
    tape.off_mm === 0 ? "" : ` ${tape.off_mm > 0 ? "+" : "−"}${show(Math.abs(tape.off_mm))}`;
  return `= ${show(tape.mm)} mm   ${tape.nearest}″${off}`;
}

/** A number as people write it: a tenth at the finest. */
export function show(value: number): string {
  return value.toLocaleString("en", { maximumFractionDigits: 1, useGrouping: false });
}

/** Escapes a key for a JSON Pointer. */
export function escapePointer(key: string): string {
  return key.replaceAll("~", "~0").replaceAll("/", "~1");
}

/** A short identifier that no other window makes at the same time. */
export function freshId(prefix: string): string {
  const random = crypto.getRandomValues(new Uint32Array(2));
  return `${prefix}${Date.now().toString(36)}${[...random].map((n) => n.toString(36)).join("")}`;
}
