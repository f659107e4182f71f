import { afterEach, describe, expect, it, vi } from "vitest";
import { edits, fakeServer, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import FittingsDialog from "./FittingsDialog.vue";
import SurveySetup from "./SurveySetup.vue";

afterEach(() => vi.unstubAllGlobals());

const SURVEY = {
  sd: 1,
  readings: {
    r1: { quantity: { of: "thing", id: "well", dim: "start" }, typed: "600", unit: "mm" },
    r2: { quantity: { of: "wall", side: "left", x: 0, z: 0 }, typed: "700", unit: "mm" },
    r3: { quantity: { of: "thing", id: "post", dim: "start" }, typed: "900", unit: "mm" },
  },
  levels: { l1: { z: 0, name: "floor" }, l2: { z: 350, name: "350 up", ridge: true } },
  stations: { s1: { x: 950, ridge: true, side: "left" } },
  skipped: {},
  things: { well: { kind: "wheel_well", side: "left", name: "left well" } },
  openings: { side: { name: "side door", heights: [450], depth: 900, seat_first: true } },
  seats: {},
  datums: { tube: { name: "tube", kind: "roof_tube", z: 1200, hard: false } },
  landmarks: {},
  fixings: {},
};

async function dialog(component: typeof SurveySetup | typeof FittingsDialog, survey = SURVEY) {
  const server = fakeServer({}, { survey });
  await openMoth();
  const { wrapper } = await mountAt(component, "survey", { modelValue: true });
  await settle();
  const button = (name: string) =>
    wrapper
      .findAll("button")
      .find((b) => b.text() === name || b.attributes("aria-label") === name)!;
  const press = async (name: string) => {
    await button(name).trigger("click");
    await settle();
  };
  return { server, wrapper, button, press };
}

describe("places and things", () => {
  it("takes a thing away with its readings, and no others", async () => {
    const { press, server } = await dialog(SurveySetup);
    await press("Remove left well");
    expect(edits(server)).toEqual([
      [
        { op: "remove", path: "/survey/readings/r1" },
        { op: "remove", path: "/survey/things/well" },
      ],
    ]);
  });

  it("keeps the floor among the heights", async () => {
    const { button } = await dialog(SurveySetup);
    expect(button("Remove height floor")).toBeUndefined();
    expect(button("Remove height 350 up")).toBeDefined();
  });

  it("marks a height as a crease, and takes the mark back", async () => {
    const { wrapper, server } = await dialog(SurveySetup);
    const crease = wrapper.findAll("label").filter((l) => l.text() === "crease");
    const boxes = crease.map((l) => l.get("input"));
    expect(boxes.map((b) => (b.element as HTMLInputElement).checked)).toEqual([false, true]);
    await boxes[1]!.setValue(false);
    await settle();
    expect(edits(server)).toEqual([[{ op: "add", path: "/survey/levels/l2/ridge", value: false }]]);
  });

  it("removes a place along the bay", async () => {
    const { press, server, wrapper } = await dialog(SurveySetup);
    expect(wrapper.text()).toContain("ridge left only");
    await press("Remove place 1");
    expect(edits(server)).toEqual([[{ op: "remove", path: "/survey/stations/s1" }]]);
  });
});

describe("doors, seats, datums", () => {
  it("offers the outline of the rear opening until there is one", async () => {
    const { press, server } = await dialog(FittingsDialog);
    await press("Outline of the rear opening");
    expect(edits(server)).toEqual([
      [
        {
          op: "add",
          path: "/survey/openings/rear",
          value: { name: "rear opening", heights: [] },
        },
      ],
    ]);
    const rear = { ...SURVEY.openings, rear: { name: "rear opening", heights: [700] } };
    const again = await dialog(FittingsDialog, { ...SURVEY, openings: rear } as typeof SURVEY);
    expect(again.button("Outline of the rear opening")).toBeUndefined();
    expect(again.button("Take away 700 mm")).toBeDefined();
  });

  it("shows what a datum says of itself", async () => {
    const { wrapper } = await dialog(FittingsDialog);
    const hard = wrapper.findAll("label").find((l) => l.text() === "hard")!;
    expect((hard.get("input").element as HTMLInputElement).checked).toBe(false);
  });

  it("adds a seat with nothing measured yet", async () => {
    const { press, server } = await dialog(FittingsDialog);
    await press("Add a seat");
    const op = edits(server)[0]![0]!;
    expect(op.path).toMatch(/^\/survey\/seats\/s/);
    expect(op.value).toEqual({
      name: "seat",
      travel: null,
    });
  });
});
