import { expect, it } from "vitest";
import type { Plan, Shape } from "@/api/types";
import { names } from "./names";

const shape = (id: string, role: string, [a, b]: [number, number]) => ({
  module: id.split("/")[0]!,
  board: id,
  mark: `mark of ${id}`,
  role,
  outline: {
    outer: [
      [a, 0],
      [b, 0],
      [b, 40],
      [a, 40],
    ],
    holes: [],
  },
});
const plan = {
  decks: [{ id: "deck" }],
  modules: [
    { id: "deck", name: "deck" },
    { id: "box", name: "rug box" },
  ],
} as unknown as Pick<Plan, "decks" | "modules">;
const on = { X: (x: number) => x, Y: (y: number) => 100 - y, right: 300 };
const all = (...shapes: object[]) => names(shapes as Shape[], plan, on);

it("names a piece once, in the middle of all its boards, and panels of a deck by their marks", () => {
  const said = all(
    shape("box/lid", "lid", [10, 60]),
    shape("box/end", "side", [60, 90]),
    shape("deck/frame-1", "frame", [0, 5]),
    shape("deck/panel-1", "panel", [0, 100]),
  );
  expect(said).toEqual([
    { x: 8, y: 85, text: "mark of deck/panel-1", module: "deck", end: false },
    { x: 18, y: 85, text: "rug box", module: "box", end: false },
  ]);
});

it("ends a name where its piece ends if it would run out of the drawing", () => {
  // Seven letters from 278 on would pass 300.
  expect(all(shape("box/lid", "lid", [270, 295]))).toEqual([
    { x: 287, y: 85, text: "rug box", module: "box", end: true },
  ]);
});
