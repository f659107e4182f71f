import type { Tape } from "@/api/client";
import type { Ask } from "@/api/types";
import { say } from "./text";

/** What lies outside what is believed, in words; nothing if it is inside or nothing is known. */
export function surprise(
  believed: Ask["believed"] | null,
  read: Tape,
  system: "mm" | "in",
): string {
  if (!believed || "error" in read) return "";
  if (read.mm >= believed[0]!.value && read.mm <= believed[1]!.value) return "";
  const typed = system === "in" ? `${read.nearest}″` : `${read.mm} mm`;
  const [low, high] = believed.map((f) => say(f, system));
  return `${typed}? Expected between ${low} and ${high}${system === "in" ? "" : " mm"}.`;
}
