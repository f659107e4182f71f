import { afterEach, describe, expect, it, vi } from "vitest";
import { defineComponent, h } from "vue";
import type { Scene } from "@/api/types";
import { edits, fakeServer, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import EveningLine from "./EveningLine.vue";

afterEach(() => vi.unstubAllGlobals());

const scene = (board: string) => ({ above: [], side: [{ board }], behind: [] });
const body = (open: number, words: string) => ({
  id: "box/lid",
  name: "rug box, lid",
  module: "box",
  open,
  usual: 0.5,
  words,
  ends: ["shut", "open to 85°"],
});
const evening = {
  states: [
    { id: "drive", name: "drive", bodies: [body(0, "shut")], scene: scene("none") },
    { id: "night", name: "sleep", bodies: [body(0.4, "open to 72°")], scene: scene("end") },
  ],
  moves: [
    {
      from: "drive",
      to: "night",
      persons: 1,
      seconds: 8,
      steps: [
        {
          body: "box/lid",
          module: "box",
          words: "rug box, lid: open to 72°",
          persons: 1,
          seconds: 8,
          meets: "the deck (D2) at 2°",
          scene: scene("step"),
        },
      ],
    },
  ],
};

async function show() {
  const server = fakeServer({ evening } as never);
  await openMoth();
  const scenes: (Scene | null)[] = [];
  const own = defineComponent({
    render: () => h(EveningLine, { picked: "box", onScene: (s) => scenes.push(s) }),
  });
  const { wrapper } = await mountAt(own as never, "layout");
  const boards = () => scenes.at(-1)?.side.map((s) => s.board);
  return { server, wrapper, boards };
}

describe("the evening", () => {
  it("is walked by keys, bead by bead, and shows how things lie then", async () => {
    const { wrapper, boards } = await show();
    const line = wrapper.get("[role=slider]");
    expect(line.attributes("aria-valuemax")).toBe("2");
    expect(line.attributes("aria-valuetext")).toBe("drive");
    await line.trigger("keydown", { key: "ArrowRight" });
    expect(boards()).toEqual(["step"]);
    expect(line.attributes("aria-valuetext")).toBe(
      "rug box, lid: open to 72°, but it meets the deck (D2) at 2°; 8 s",
    );
    await line.trigger("keydown", { key: "End" });
    expect(boards()).toEqual(["end"]);
    // Pressed once more it stays at the end.
    await line.trigger("keydown", { key: "ArrowRight" });
    expect(line.attributes("aria-valuenow")).toBe("2");
    await line.trigger("keydown", { key: "Home" });
    expect(boards()).toEqual(["none"]);
  });

  it("marks the bead that meets something", async () => {
    const { wrapper } = await show();
    expect(wrapper.findAll(".bead.red")).toHaveLength(1);
    expect(wrapper.findAll(".stop")).toHaveLength(2);
  });

  it("sets what is open in a state", async () => {
    const { wrapper, server } = await show();
    const selects = wrapper.findAll("select");
    expect(selects.map((s) => s.element.value)).toEqual(["shut", "open"]);
    await selects[0]!.setValue("open");
    await settle();
    await selects[1]!.setValue("shut");
    await settle();
    expect(edits(server)).toEqual([
      [{ op: "add", path: "/states/drive/open/box~1lid", value: 0.5 }],
      [{ op: "add", path: "/states/night/open/box~1lid", value: 0 }],
    ]);
  });
});
