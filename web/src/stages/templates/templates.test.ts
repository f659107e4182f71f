import { mount } from "@vue/test-utils";
import { createPinia, setActivePinia } from "pinia";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { api } from "@/api/client";
import type { Plan } from "@/api/types";
import CurveDrawing from "./CurveDrawing.vue";
import { pairs } from "./pairs";
import { useMeasure } from "./useMeasure";

beforeEach(() => setActivePinia(createPinia()));

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
    // A mark on the straight edge, and what it means under the drawing: words there would lie over the stations.
    expect(w.findAll("svg .next path")).toHaveLength(1);
    expect(w.find("p .next").text()).toBe("read next");
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
  it("shows how the surface bends when asked, and says it", async () => {
    const bends = {
      hairs: [
        { p: [0, 50], to: [0, 1] },
        { p: [50, 55], to: [0, -0.5] },
      ],
      tightest: [{ p: [0, 50], hollow: true, radius: figure(210) }],
      corners: [[50, 55]],
      words: "Hollow, to a radius of 210 mm at the tightest, by reading 1.",
    };
    const w = mount(CurveDrawing, { props: { curve: { ...curve, bends } } });
    expect(w.find(".bends").exists()).toBe(false);
    const button = w.findAll("button").find((b) => b.text() === "how it bends")!;
    await button.trigger("click");
    // The tightest hair is twice as long as the other, and on the other side.
    const [first, second] = w
      .find(".bends path")
      .attributes("d")!
      .split("M")
      .slice(1)
      .map((hair) => hair.split("L").map((p) => Number(p.split(" ")[1])));
    expect(first![1]! - first![0]!).toBeCloseTo(-44);
    expect(second![1]! - second![0]!).toBeCloseTo(22);
    expect(w.findAll(".bends circle")).toHaveLength(1);
    expect(w.findAll(".bends .corner")).toHaveLength(1);
    expect(w.find("[role=status]").text()).toContain("a radius of 210 mm");
    await button.trigger("click");
    expect(w.find(".bends").exists()).toBe(false);
  });
  it("shows under it, enlarged, how sure it is and how far the readings lie off", async () => {
    const sure = {
      band: [
        [
          [0, 1],
          [50, 2],
          [100, 1],
        ],
      ],
      off: [
        { id: "s1", at: 0, mm: -1 },
        { id: "s2", at: 100, mm: 9.5 },
      ],
      widest: figure(2),
      furthest: figure(1),
      astray: figure(9.5),
    };
    const w = mount(CurveDrawing, { props: { curve: { ...curve, sure, misfit: "s2" } } });
    const strip = w.findAll("svg")[1]!;
    const [below, wrong] = strip.findAll("circle");
    // Half as far below the middle as the band is wide; the wrong one stays within the frame, and is marked.
    expect(Number(below!.attributes("cy"))).toBeCloseTo(38 + 15);
    expect(Number(wrong!.attributes("cy"))).toBeCloseTo(5);
    expect(strip.findAll(".off circle")).toHaveLength(1);
    // Under the reading that it belongs to, zoomed or not.
    const over = () => Number(w.findAll("svg")[0]!.findAll("circle")[1]!.attributes("cx"));
    const under = () => Number(strip.findAll("circle")[1]!.attributes("cx"));
    expect(under()).toBeCloseTo(over());
    await w.find("svg").trigger("keydown", { key: "+" });
    expect(under()).toBeCloseTo(over());
    expect(w.text()).toContain("The marked one lies 9.5 mm off what the others say.");
  });
  it("draws a reading that is marked as a corner as a square", () => {
    const marks = [curve.marks[0]!, { ...curve.marks[1]!, corner: true }];
    const w = mount(CurveDrawing, { props: { curve: { ...curve, marks } } });
    expect(w.findAll("circle")).toHaveLength(1);
    expect(w.findAll("rect.corner")).toHaveLength(1);
  });
  it("stands empty before the first reading", () => {
    const bare = { ...curve, edge: [], cut: [], marks: [], base: [], next: undefined };
    const w = mount(CurveDrawing, { props: { curve: bare } });
    expect(w.html()).not.toContain("NaN");
    expect(w.html()).not.toContain("Infinity");
  });
  it("lays the other wall over it when asked", async () => {
    const line = [
      [0, 52],
      [100, 63],
    ];
    const over = { curve: "c1", words: "The right wall differs.", line, worst: line };
    const w = mount(CurveDrawing, { props: { curve, over: over as never } });
    expect(w.find(".other").exists()).toBe(false);
    await w.findAll("button").at(-1)!.trigger("click");
    expect(w.find(".other").exists()).toBe(true);
    expect(w.text()).toContain("The right wall differs.");
  });
});

describe("measuring in a drawing", () => {
  it("asks the core for two places, and begins anew with the third", async () => {
    const answer = { distance: figure(5), right: figure(3), up: figure(4) };
    const asked = vi.spyOn(api, "between").mockResolvedValue(answer);
    const m = useMeasure();
    m.toggle();
    await m.tap([0, 0]);
    expect(asked).not.toHaveBeenCalled();
    await m.tap([3, 4]);
    expect(asked).toHaveBeenCalledWith([0, 0], [3, 4]);
    expect(m.found.value).toEqual(answer);
    await m.tap([9, 9]);
    expect(m.found.value).toBe(null);
    expect(m.points.value).toEqual([[9, 9]]);
    // Put away it is forgotten.
    m.toggle();
    expect(m.points.value).toEqual([]);
  });
  it("does not show an answer to places that are gone", async () => {
    let say: (v: never) => void = () => undefined;
    vi.spyOn(api, "between").mockReturnValue(new Promise((done) => (say = done as never)));
    const m = useMeasure();
    m.toggle();
    await m.tap([0, 0]);
    const late = m.tap([3, 4]);
    m.clear();
    say({ distance: figure(5) } as never);
    await late;
    expect(m.found.value).toBe(null);
  });
});
