import type { Plan, Shape } from "@/api/types";

/** A word on what is seen from above. */
export interface Name {
  x: number;
  y: number;
  text: string;
  module: string;
  /** It ends at `x`, instead of beginning there. */
  end: boolean;
}

/** About as wide as a letter, px. */
const LETTER = 8.5;
/** From the edge of a piece to its name, px. */
const OFF = 8;

/**
 * The mark of each panel of a deck, and the name of each other piece, the highest first. `X` and `Y` give places on the screen; what would
 * run past `right` ends where its piece ends.
 */
export function names(
  above: Shape[],
  plan: Pick<Plan, "decks" | "modules">,
  on: { X: (x: number) => number; Y: (y: number) => number; right: number },
): Name[] {
  const out: Name[] = [];
  const seen = new Set<string>();
  const shapes = [...above].reverse();
  for (const shape of shapes) {
    const panel = shape.role === "panel";
    const key = panel ? shape.board : shape.module;
    const deck = plan.decks.some((d) => d.id === shape.module);
    if (seen.has(key) || (deck && !panel)) continue;
    seen.add(key);
    const own = panel ? [shape] : shapes.filter((o) => o.module === shape.module);
    const points = own.flatMap((o) => o.outline.outer);
    const xs = points.map((p) => p[0]!);
    const ys = points.map((p) => p[1]!);
    const module = plan.modules.find((m) => m.id === shape.module);
    const text = panel ? shape.mark : (module?.name ?? "");
    const from = on.X(Math.min(...xs)) + OFF;
    const end = from + text.length * LETTER > on.right;
    out.push({
      x: end ? on.X(Math.max(...xs)) - OFF : from,
      y: on.Y((Math.min(...ys) + Math.max(...ys)) / 2) + 5,
      text,
      module: shape.module,
      end,
    });
  }
  return out;
}
