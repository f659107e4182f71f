import type { Tape } from "@/api/client";
import type { Ask } from "@/api/types";
import { say, show } from "./text";

/** What lies outside what is believed, in words; nothing if it is inside or nothing is known. */
export function surprise(
  believed: Ask["believed"] | null,
  read: Tape,
  system: "mm" | "in",
): string {
  if (!believed || "error" in read) return "";
  if (read.mm >= believed[0]!.value && read.mm <= believed[1]!.value) return "";
  const typed = system === "in" ? `${read.nearest}″` : show(read.mm);
  const [low, high] = believed.map((f) => say(f, system));
  // To the mark of the tape it is no other number than the end of what is believed.
  if (typed === low || typed === high) return "";
  return `${typed}${system === "in" ? "" : " mm"}? Expected between ${low} and ${high}${system === "in" ? "" : " mm"}.`;
}
