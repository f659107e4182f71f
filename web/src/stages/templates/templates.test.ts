import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import type { Plan } from "@/api/types";
import CurveDrawing from "./CurveDrawing.vue";
import { pairs } from "./pairs";

describe("pasted readings", () => {
  it("are parted by tab, semicolon, comma or blanks", () => {
    expect(pairs("0; 43,5\n120;44")).toEqual([
      ["0", "43,5"],
      ["120", "44"],
    ]);
    expect(pairs("4 3/16\t1 1/2")).toEqual([["4 3/16", "1 1/2"]]);
    expect(pairs("10, 20\r\n\r\n30,40\n5 6")).toEqual([
      ["10", "20"],
      ["30", "40"],
      ["5", "6"],
    ]);
  });
  it("say which line is wrong", () => {
    expect(pairs("1;2\n3")).toContain("Line 2");
    expect(pairs("1;2;3")).toContain("3 numbers");
    expect(pairs("1;2\n".repeat(2001))).toContain("too many");
  });
});

const figure = (value: number) => ({ value, mm: `${value}`, inch: `i${value}` });
const curve = {
  id: "c1",
  name: "left wall",
  asks: ["along", "depth"],
  edge: [
    [0, 50],
    [100, 60],
  ],
  cut: [
    [0, 49],
    [100, 59],
  ],
  marks: [
    { id: "s1", p: [0, 50] },
    { id: "s2", p: [100, 60] },
  ],
  base: [
    [0, 0],
    [100, 0],
  ],
  missing: 0,
  warnings: [],
  next: { at: figure(50), doubt: figure(2) },
} as unknown as Plan["templates"][number];

describe("the drawing of a curve", () => {
  it("shows readings, edge and the next place, and zooms by keys", async () => {
    const w = mount(CurveDrawing, { props: { curve } });
    expect(w.findAll("circle")).toHaveLength(2);
    expect(w.find(".next").text()).toBe("next");
    const place = () => Number(w.findAll("circle")[1]!.attributes("cx"));
    const before = place();
    await w.find("svg").trigger("keydown", { key: "+" });
    const closer = place();
    expect(closer).toBeGreaterThan(before);
    await w.find("svg").trigger("keydown", { key: "ArrowRight" });
    expect(place()).toBe(closer - 40);
    await w.find("svg").trigger("keydown", { key: "0" });
    expect(place()).toBe(before);
    // Further than all of it there is nothing to see.
    await w.find("svg").trigger("keydown", { key: "-" });
    expect(place()).toBe(before);
  });
  it("stands empty before the first reading", () => {
    const bare = { ...curve, edge: [], cut: [], marks: [], base: [], next: undefined };
    const w = mount(CurveDrawing, { props: { curve: bare } });
    expect(w.html()).not.toContain("NaN");
    expect(w.html()).not.toContain("Infinity");
  });
});
