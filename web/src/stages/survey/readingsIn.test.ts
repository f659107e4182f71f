import { afterEach, describe, expect, it, vi } from "vitest";
import { edits, fakeServer, openMoth, refusalOf } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import ReadingsIn from "./ReadingsIn.vue";

afterEach(() => vi.unstubAllGlobals());

const SCAN = "POST /api/projects/moth/scan";
const TABLE = "POST /api/projects/moth/readings";
const PATCH = [{ op: "add", path: "/survey/readings/s1", value: { typed: "700" } }];
const CUTS = {
  points: 120000,
  shown: [
    [0, 0, 0],
    [2000, 700, 0],
    [2000, -700, 0],
  ],
  found: [{}, {}, {}],
  rms: 0,
  sections: [],
  patch: PATCH,
};

async function readingsIn(answers: Record<string, unknown>, name: string) {
  const server = fakeServer({});
  server.answers = answers;
  await openMoth();
  const { wrapper } = await mountAt(ReadingsIn, "survey", { modelValue: true });
  const input = wrapper.get("input[type=file]");
  Object.defineProperty(input.element, "files", { value: [new File(["x"], name)] });
  await input.trigger("change");
  await settle();
  const button = (word: string) => wrapper.findAll("button").find((b) => b.text().startsWith(word));
  const asked = () => server.sent.filter((s) => s.path.includes("/scan?")).map((s) => s.path);
  return { server, wrapper, button, asked };
}

describe("readings from a table", () => {
  const table = { added: 12, known: 3, refused: [[4, "no such quantity"]], patch: PATCH };

  it("tells what is new, what is there, and which rows cannot be read", async () => {
    const { wrapper } = await readingsIn({ [TABLE]: table }, "tape.csv");
    const text = wrapper.text().replaceAll(/\s+/g, " ");
    expect(text).toContain("12 new readings, 3 there already, 1 rows could not be read");
    expect(text).toContain("line 4: no such quantity");
  });

  it("adds them only when told to, then closes", async () => {
    const { server, wrapper, button } = await readingsIn({ [TABLE]: table }, "TAPE.CSV");
    expect(edits(server)).toEqual([]);
    await button("Add 12")!.trigger("click");
    await settle();
    expect(edits(server)).toEqual([PATCH]);
    expect(wrapper.emitted("update:modelValue")).toEqual([[false]]);
  });

  it("stays open and says why when they are refused", async () => {
    const { server, wrapper, button } = await readingsIn({ [TABLE]: table }, "tape.csv");
    server.refuse = { type: "", title: "no", detail: "Too many readings.", pointer: "/survey" };
    await button("Add 12")!.trigger("click");
    await settle();
    expect(wrapper.get("[role=alert]").text()).toContain("Too many readings.");
    expect(wrapper.emitted("update:modelValue")).toBeUndefined();
  });
});

describe("readings from a scan", () => {
  it("shows the points from above and what was found", async () => {
    const { wrapper, button, asked } = await readingsIn({ [SCAN]: CUTS }, "bay.ply");
    expect(wrapper.findAll("circle.dot")).toHaveLength(3);
    expect(wrapper.text()).toContain("120,000 points");
    expect(button("Add 3 readings")).toBeDefined();
    const how = new URLSearchParams(asked()[0]!.split("?")[1]);
    expect(how.get("heights")).toBe("250,450");
    expect(how.get("pairs")).toBe("");
  });

  it("places it by three clicked corners", async () => {
    const { wrapper, button, asked } = await readingsIn({ [SCAN]: CUTS }, "bay.ply");
    for (let i = 0; i < 4; i++) await wrapper.get("rect.sheet").trigger("click");
    // A fourth click is one too many.
    expect(wrapper.findAll("circle.picked")).toHaveLength(3);
    await wrapper.get("[aria-label='Point 2 left']").setValue("-700");
    await button("Cut again")!.trigger("click");
    await settle();
    const how = new URLSearchParams(asked().at(-1)!.split("?")[1]);
    const pairs = JSON.parse(how.get("pairs")!) as { vehicle: number[] }[];
    expect(pairs.map((p) => p.vehicle)).toEqual([
      [0, 0, 0],
      [0, -700, 0],
      [0, 0, 0],
    ]);
  });

  it("cuts across where it is told, in the tape's own lengths, and says which is none", async () => {
    const { wrapper, button, asked } = await readingsIn({ [SCAN]: CUTS }, "bay.ply");
    const field = wrapper.findAll("input.wide")[1]!;
    await field.setValue("600, 1200");
    await button("Cut again")!.trigger("click");
    await settle();
    expect(new URLSearchParams(asked().at(-1)!.split("?")[1]).get("across")).toBe("600,1200");
    const before = asked().length;
    await field.setValue("600, soon");
    await button("Cut again")!.trigger("click");
    await settle();
    expect(asked()).toHaveLength(before);
    expect(wrapper.get("[role=alert]").text()).toContain("cannot be read");
  });

  it("tells what is wrong with the file, and adds nothing", async () => {
    const { wrapper, button } = await readingsIn(
      { [SCAN]: refusalOf("The header promises 9 points, the file has 2.") },
      "bay.ply",
    );
    expect(wrapper.get("[role=alert]").text()).toContain("promises 9 points");
    expect(button("Add")).toBeUndefined();
  });
});
