import { beforeEach, describe, expect, it } from "vitest";
import { ladder } from "@/testing/demo";
import { useDeckDrag } from "./useDeckDrag";

let previews: number[];
let chosen: number[];
let now: number;
let left: boolean[];

/** A ladder of two pixels to the millimetre whose floor is at 1000 on the screen. */
function hands() {
  return useDeckDrag({
    ladder: () => ladder(now),
    heightAt: (y) => (1000 - y) / 2,
    scale: () => 2,
    step: () => 1,
    leave: () => left.push(true),
    preview: (u) => previews.push(u),
    choose: (u) => chosen.push(u),
  });
}
const at = (mm: number) =>
  ({ clientY: 1000 - mm * 2, pointerId: 1, currentTarget: {} }) as unknown as PointerEvent;
const press = (key: string, shiftKey = false) =>
  ({ key, shiftKey, preventDefault() {} }) as KeyboardEvent;

beforeEach(() => {
  previews = [];
  chosen = [];
  left = [];
  now = 252;
});

it("ends with Escape, and nothing is chosen", () => {
  const deck = hands();
  deck.grab(at(252));
  deck.drag(at(400));
  window.dispatchEvent(new KeyboardEvent("keydown", { key: "Escape" }));
  deck.drop(at(400));
  expect(left).toEqual([true]);
  expect(chosen).toEqual([]);
  // Pressed again there is nothing to end.
  window.dispatchEvent(new KeyboardEvent("keydown", { key: "Escape" }));
  expect(left).toEqual([true]);
});

describe("by pointer", () => {
  it("previews while it moves, once for each height, and chooses at the end", () => {
    const { grab, drag, drop } = hands();
    grab(at(252));
    for (const mm of [260, 260, 270]) drag(at(mm));
    expect(chosen).toEqual([]);
    drop(at(270));
    expect(previews).toEqual([260, 270]);
    expect(chosen).toEqual([270]);
  });

  it("is caught by a rung close by", () => {
    const { grab, drag } = hands();
    grab(at(252));
    drag(at(298));
    drag(at(297));
    expect(previews).toEqual([300, 297]);
  });

  it("stays between floor and roof", () => {
    const { grab, drag } = hands();
    grab(at(252));
    drag(at(-80));
    drag(at(5000));
    expect(previews).toEqual([0, 1200]);
  });

  it("does nothing before it was taken or after it was let go", () => {
    const { drag, drop } = hands();
    drag(at(300));
    drop(at(300));
    expect([previews, chosen]).toEqual([[], []]);
  });
});

describe("by keyboard", () => {
  it.each([
    ["ArrowUp", false, 253],
    ["ArrowDown", false, 251],
    ["ArrowUp", true, 300],
    ["ArrowDown", true, 250],
  ])("%s, shift %s", (key, shift, to) => {
    hands().key(press(key, shift));
    expect(chosen).toEqual([to]);
  });

  it("stops at the last rung and at the floor", () => {
    now = 300;
    hands().key(press("ArrowUp", true));
    now = 0;
    hands().key(press("ArrowDown"));
    hands().key(press("a"));
    expect(chosen).toEqual([]);
  });
});
