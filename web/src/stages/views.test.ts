import { afterEach, describe, expect, it, vi } from "vitest";
import type { Part, SheetGroup } from "@/api/types";
import StageStrip from "@/shell/StageStrip.vue";
import { useView } from "@/store/view";
import { edits, fakeServer, figure, ladder, openMoth, rung } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import CutStage from "./cut/CutStage.vue";
import HeightsStage from "./heights/HeightsStage.vue";
import PartsStage from "./parts/PartsStage.vue";

afterEach(() => vi.unstubAllGlobals());

async function show(component: object, stage: string, plan: object, project = {}) {
  const server = fakeServer(plan as never, project);
  await openMoth();
  return { server, ...(await mountAt(component as never, stage)) };
}

describe("stage strip", () => {
  it("tells each stage's state by sign and word", async () => {
    const state = (id: string, s: string, needs: number, worst: string | null = null) => ({
      id,
      state: s,
      needs,
      note: `${id} note`,
      worst,
    });
    const { wrapper } = await show(StageStrip, "stow", {
      stages: [
        state("survey", "done", 0, "stop"),
        state("stow", "needs", 1),
        state("heights", "needs", 3),
        state("layout", "empty", 0),
      ],
    });
    const links = wrapper.findAll("a").map((a) => a.text().replace(/\s+/g, " "));
    expect(links[0]).toBe("✓Surveysurvey note · stop");
    expect(links[1]).toBe("1Stowneeds 1 number");
    expect(links[2]).toBe("3Heightsneeds 3 numbers");
    expect(links[3]).toBe("·Layoutlayout note");
    expect(wrapper.get("[aria-current=step]").text()).toContain("Stow");
  });
});

describe("heights", () => {
  it("says what to do while there is no roof", async () => {
    const { wrapper } = await show(HeightsStage, "heights", { ladder: null });
    expect(wrapper.get(".empty").text()).toContain("Measure the floor to the roof first");
    expect(wrapper.get(".empty a").attributes("href")).toContain("/survey");
  });

  it("chooses a rung of the ladder", async () => {
    const project = { modules: { deck: { kind: "deck" } } };
    const { wrapper, server } = await show(
      HeightsStage,
      "heights",
      { ladder: ladder(252) },
      project,
    );
    const rungs = wrapper.findAll("g[role=button]");
    expect(rungs).toHaveLength(4);
    await wrapper.get('[aria-label="300 mm: tall fits"]').trigger("click");
    await settle();
    expect(edits(server)).toEqual([
      [{ op: "add", path: "/modules/deck/choices/underside", value: 300 }],
    ]);
  });

  it("compares heights with what each one costs", async () => {
    const l = ladder(252);
    l.candidates = [
      { id: "c", note: "most room", rung: rung(300, "x"), misses: ["Water can"], stoops: ["Ada"] },
    ];
    const { wrapper, server } = await show(HeightsStage, "heights", { ladder: l });
    expect(wrapper.findAll(".miss").map((m) => m.text())).toEqual(["not Water can", "not Ada"]);
    await wrapper
      .findAll("button")
      .find((b) => b.text() === "Drop")!
      .trigger("click");
    await settle();
    expect(edits(server)).toEqual([[{ op: "remove", path: "/candidates/c" }]]);
  });
});

function part(id: string, mark: string): Part {
  return {
    id,
    boards: [id],
    mark,
    name: `name of ${mark}`,
    module: "deck",
    count: mark === "L1" ? 12 : 1,
    material: "birch-ply",
    stuff: "15 mm birch ply",
    thickness: figure(15),
    outline: {
      outer: [
        [0, 0],
        [400, 0],
        [400, 300],
        [0, 300],
      ],
      holes: [],
    },
    w: figure(400),
    h: figure(300),
    grain: "along",
    corners: [{ letter: "A", u: figure(0), v: figure(0) }],
    features: [],
    dims: [],
    then: ["ease all edges"],
    why: [
      {
        about: "width",
        total: figure(400),
        steps: [{ op: "-", label: "clearance", figure: figure(3) }],
      },
    ],
    mass: 2.5,
    weighs: "2.5 kg",
    way: { face: "top face", bottom: "right wall", right: "front", top: "left wall", left: "rear" },
    places: [],
    at: [0, 0, 0],
  };
}

describe("parts", () => {
  it("shows the first, then the one that is picked or pointed at", async () => {
    const { wrapper } = await show(PartsStage, "parts", {
      parts: [part("p1", "D1"), part("p2", "L1")],
      mass: 32.5,
      weighs: "33 kg",
    });
    expect(wrapper.get("h2").text()).toBe("D1 · name of D1");
    expect(wrapper.text()).toContain("L1 ×12");
    useView().marked = "p2";
    await settle();
    expect(wrapper.get("h2").text()).toBe("L1 · name of L1");
    expect(wrapper.get(".why").text()).toContain("- 3");
    expect(wrapper.get(".then").text()).toBe("ease all edges");
  });

  it("points to the layout while there are none", async () => {
    const { wrapper } = await show(PartsStage, "parts", { parts: [] });
    expect(wrapper.get(".empty a").attributes("href")).toContain("/layout");
  });
});

describe("cut day", () => {
  const group = (done: boolean): SheetGroup => ({
    stuff: "15 mm birch ply",
    material: "birch-ply",
    thickness: figure(15),
    bar: false,
    assumed: false,
    used_percent: 47.3,
    unpriced: 0,
    nest: { sheets_used: 1, cost: 68 } as SheetGroup["nest"],
    sheets: [
      {
        mark: "S1",
        first: [],
        w: figure(2440),
        h: figure(1220),
        grain: "w",
        layout: 0,
        order: 1,
        accepted: true,
        parts: [],
        offcuts: [{ mark: "S1-a", x: 0, y: 700, w: figure(900), h: figure(300) }],
        cuts: [
          {
            key: "a/b",
            done,
            n: 1,
            axis: "y",
            at: figure(700),
            from: 5,
            to: 2435,
            length: figure(2430),
            set: figure(695),
            text: "along: 695 mm from the piece's edge",
          },
        ],
      },
    ],
  });

  it("accepts the sheets with the first tick, in one step", async () => {
    const fresh = group(false);
    fresh.sheets[0]!.accepted = false;
    const { wrapper, server } = await show(CutStage, "cut", { sheets: [fresh] });
    const patch = [{ op: "add", path: "/cutting/accepted", value: { parts: {}, sheets: {} } }];
    const line = JSON.stringify({ sheets: 1, before: 1, patch });
    server.answers["POST /api/projects/moth/sheets"] = new Response(`${line}\n`);
    await wrapper.get(".cuts input").setValue(true);
    await vi.waitFor(() => expect(edits(server)).toHaveLength(1));
    expect(edits(server)[0]).toMatchObject([patch[0], { op: "add", path: "/cutting/ticked/a~1b" }]);
  });

  it("looks for fewer sheets, says how far it is, offers what it found", async () => {
    const { wrapper, server } = await show(CutStage, "cut", { sheets: [group(false)] });
    const patch = [{ op: "add", path: "/cutting/accepted", value: null }];
    const lines = [
      { done: 5, of: 10 },
      { sheets: 1, before: 2, patch },
    ];
    const text = lines.map((l) => JSON.stringify(l)).join("\n");
    server.answers["POST /api/projects/moth/sheets"] = new Response(`${text}\n`);
    const button = (name: string) => wrapper.findAll("button").find((b) => b.text() === name)!;
    await button("Look for fewer sheets").trigger("click");
    await vi.waitFor(() => expect(wrapper.text()).toContain("1 instead of 2 sheets."));
    expect(edits(server)).toEqual([]);
    await button("Take it").trigger("click");
    await vi.waitFor(() => expect(edits(server)).toEqual([patch]));
  });

  it("ticks a cut off and takes the tick back", async () => {
    const first = await show(CutStage, "cut", { sheets: [group(false)] });
    await first.wrapper.get(".cuts input").setValue(true);
    await settle();
    const [patch] = edits(first.server);
    expect(patch![0]).toMatchObject({ op: "add", path: "/cutting/ticked/a~1b" });
    const second = await show(CutStage, "cut", { sheets: [group(true)] });
    await second.wrapper.get(".cuts input").setValue(false);
    await settle();
    expect(edits(second.server)).toEqual([[{ op: "remove", path: "/cutting/ticked/a~1b" }]]);
  });

  it("tells sheets, use and cost, and names what is kept", async () => {
    const { wrapper } = await show(CutStage, "cut", { sheets: [group(false)] });
    expect(wrapper.text().replace(/\s+/g, " ")).toContain("1 sheet, 47 % becomes parts, cost 68");
    expect(wrapper.get("span.offcut").text()).toBe("S1-a 900 × 300");
  });
});
