import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import type { Plan } from "@/api/types";
import AssemblySteps from "./AssemblySteps.vue";

type Assembly = Plan["assembly"][number];
const square = (x: number) => ({
  outer: [
    [x, 0],
    [x + 10, 0],
    [x + 10, 10],
  ],
  holes: [],
});
const assembly = {
  module: "box",
  name: "rug box",
  frame: [
    [0, 0],
    [30, 10],
  ],
  drawn: [
    { board: "box/a", mark: "B1", faces: [square(0)], at: [5, 5] },
    { board: "box/b", mark: "B2", faces: [square(10)], at: [15, 5] },
    { board: "box/lid", mark: "B3", faces: [square(20)], at: [25, 5] },
  ],
  steps: [
    { boards: ["box/a"], words: "Set up B1", holds: [], persons: 1, comes_apart: true, body: "f" },
    {
      boards: ["box/b"],
      words: "Add B2",
      holds: ["to B1: 3 screws"],
      persons: 2,
      comes_apart: false,
      body: "f",
    },
    {
      boards: ["box/lid"],
      words: "Set up B3",
      holds: [],
      persons: 1,
      comes_apart: true,
      body: "lid",
    },
  ],
} as unknown as Assembly;

describe("putting together", () => {
  it("goes step by step, by press and by keys, and draws what is there", async () => {
    const w = mount(AssemblySteps, { props: { assembly } });
    const drawn = () => w.findAll("g:not(.through)").length;
    expect(drawn()).toBe(1);
    await w.find("ol").trigger("keydown", { key: "ArrowDown" });
    expect(w.find('[aria-selected="true"]').text()).toContain("to B1: 3 screws");
    expect(w.text()).toContain("by two");
    expect([drawn(), w.findAll("g.now").length]).toEqual([2, 1]);
    expect(w.find("text").text()).toBe("B2");
    // What moves is drawn by itself; past the last step there is none.
    await w.findAll("li")[2]!.trigger("click");
    await w.find("ol").trigger("keydown", { key: "ArrowDown" });
    expect(drawn()).toBe(1);
    expect(w.find("svg").attributes("aria-label")).toContain("Step 3 of 3");
  });
});
