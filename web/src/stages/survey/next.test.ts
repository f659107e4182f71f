import { afterEach, describe, expect, it, vi } from "vitest";
import { useView } from "@/store/view";
import { ask, edits, fakeServer, figure, mark, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import MeasureNext from "./MeasureNext.vue";
import SurveyPlan from "./SurveyPlan.vue";

afterEach(() => vi.unstubAllGlobals());

describe("what to measure next", () => {
  async function list(asks: ReturnType<typeof ask>[], current = "") {
    const server = fakeServer({
      asks,
      progress: { full: "44 to 50 readings", quick: "22 readings", goal: figure(3) } as never,
    });
    await openMoth();
    const { wrapper } = await mountAt(MeasureNext, "survey", { asks, current });
    return { server, wrapper };
  }

  it("says what each reading is worth and what it costs", async () => {
    const { wrapper } = await list([
      ask("a", { gain: figure(3), minutes: 1 }),
      ask("b", { again: true }),
      ask("c", { needed: false }),
    ]);
    const rows = wrapper.findAll("li").map((r) => r.text().replace(/\s+/g, " "));
    expect(rows[0]).toContain("takes ±3 off, 1 min");
    expect(rows[1]).toContain("read again");
    expect(rows[2]).toContain("a check, not needed");
  });

  it("tells why of the one asked for now, and counts what it does not list", async () => {
    const many = Array.from({ length: 9 }, (_, i) => ask(`k${i}`));
    const { wrapper } = await list(many, "k2");
    expect(wrapper.findAll("li")).toHaveLength(7);
    expect(wrapper.text()).toContain("and 2 more");
    expect(wrapper.findAll(".why")).toHaveLength(1);
    expect(wrapper.get("[aria-current=true]").text()).toBe("Measure k2");
  });

  it("puts the one picked into the tape bar", async () => {
    const { wrapper } = await list([ask("a"), ask("b")]);
    await wrapper.findAll(".link")[1]!.trigger("click");
    expect(useView().picked).toBe("b");
  });

  it("switches between quick and full", async () => {
    const { wrapper, server } = await list([]);
    await wrapper.findAll(".switch button")[0]!.trigger("click");
    await settle();
    expect(edits(server)).toEqual([[{ op: "add", path: "/survey/protocol", value: "quick" }]]);
  });
});

describe("the plan of the survey", () => {
  const bay = {
    z: figure(0),
    name: "floor",
    region: {
      outer: [
        [0, -700],
        [2000, -700],
        [2000, 700],
        [0, 700],
      ],
      holes: [],
    },
    sd: 1,
    walls: [
      [
        [0, 700, 1],
        [2000, 700, 2],
      ],
      [
        [0, -690, 1],
        [2000, -690, 2],
      ],
    ],
    differ: figure(12),
  };
  async function plan(side: string, marks = [mark("left", 1), mark("right", 2, "disagrees")]) {
    marks.forEach((m) => (m.residual = m.state === "ok" ? 0.2 : -25));
    fakeServer({
      survey: {
        marks,
        bays: [bay],
        things: [],
        readings: 3,
        noise: figure(1),
        roof: [],
        floor: [],
        stations: [],
        length: figure(2000),
      } as never,
    });
    await openMoth();
    return (await mountAt(SurveyPlan, "survey", { z: 0, side })).wrapper;
  }

  it("draws a band of doubt for each wall", async () => {
    const wrapper = await plan("both");
    expect(wrapper.findAll(".band")).toHaveLength(2);
    expect(wrapper.find(".mirrored").exists()).toBe(false);
  });

  it("tells how far off a reading is only where it matters", async () => {
    const wrapper = await plan("both");
    expect(wrapper.findAll(".residual").map((r) => r.text())).toEqual(["off by 25.0 mm"]);
  });

  it("lays one side over the other and says the largest difference", async () => {
    const wrapper = await plan("compare");
    expect(wrapper.find(".mirrored").exists()).toBe(true);
    expect(wrapper.text()).toContain("differ by up to 12 mm");
  });
});
