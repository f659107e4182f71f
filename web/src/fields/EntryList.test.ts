import { afterEach, describe, expect, it, vi } from "vitest";
import { useProject } from "@/store/project";
import { edits, fakeServer, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import EntryList from "./EntryList.vue";
import HeightsField from "./HeightsField.vue";
import type { Column } from "./columns";

afterEach(() => vi.unstubAllGlobals());

const COLUMNS: Column[] = [
  { field: "name", label: "Name", as: "text" },
  { field: "at/1", label: "Left", as: "length" },
  { field: "hard", label: "hard", as: "flag", otherwise: true },
];
const ENTRIES = {
  a: { name: "ring", at: [100, 200, 0] },
  "b/c": { name: "bolt", at: [1, 2, 3], hard: false },
};

async function list(props: object = {}) {
  const server = fakeServer({});
  await openMoth();
  const { wrapper } = await mountAt(EntryList as never, "survey", {
    list: "/survey/fixings",
    entries: ENTRIES,
    columns: COLUMNS,
    ...props,
  });
  await settle();
  const button = (name: string) =>
    wrapper
      .findAll("button")
      .find((b) => b.text() === name || b.attributes("aria-label") === name)!;
  return { server, wrapper, button };
}

describe("the entries of a list", () => {
  it("shows a row each, with what a nested field says", async () => {
    const { wrapper } = await list();
    const rows = wrapper.findAll(".line");
    expect(rows).toHaveLength(2);
    const values = rows.map((r) =>
      r.findAll("input:not([type=checkbox])").map((i) => (i.element as HTMLInputElement).value),
    );
    expect(values).toEqual([
      ["ring", "200"],
      ["bolt", "2"],
    ]);
  });

  it("takes what the document leaves out as it usually is", async () => {
    const { wrapper } = await list();
    const boxes = wrapper.findAll("input[type=checkbox]");
    expect(boxes.map((b) => (b.element as HTMLInputElement).checked)).toEqual([true, false]);
  });

  it("leaves out what is of no use for an entry", async () => {
    const columns = [
      ...COLUMNS,
      { field: "depth", label: "Deep", as: "length", when: (e) => e.name === "bolt" },
    ] as Column[];
    const { wrapper } = await list({ columns });
    const shown = wrapper.findAll(".line").map((r) => r.text().includes("Deep"));
    expect(shown).toEqual([false, true]);
  });

  it("writes to the entry, its key escaped", async () => {
    const { wrapper, server } = await list();
    await wrapper.findAll("input[type=checkbox]")[1]!.setValue(true);
    await settle();
    expect(edits(server)).toEqual([
      [{ op: "add", path: "/survey/fixings/b~1c/hard", value: true }],
    ]);
  });

  it("removes an entry with what hangs on it", async () => {
    const { button, server } = await list({
      with: (id: string) => [{ op: "remove", path: `/survey/readings/of-${id}` }],
    });
    await button("Remove ring").trigger("click");
    await settle();
    expect(edits(server)).toEqual([
      [
        { op: "remove", path: "/survey/readings/of-a" },
        { op: "remove", path: "/survey/fixings/a" },
      ],
    ]);
  });

  it("adds a fresh one under a key of its own", async () => {
    const fresh = { name: "fixing" };
    const { button, server } = await list({ add: "Add a fixing", fresh });
    await button("Add a fixing").trigger("click");
    await settle();
    const first = edits(server)[0]![0]!;
    expect(first.value).toEqual(fresh);
    expect(first.path).toMatch(/^\/survey\/fixings\/f[a-z0-9]{8,}$/);
  });

  it("has nothing to add with when nothing can be added here", async () => {
    const { wrapper } = await list({ entries: undefined });
    expect(wrapper.findAll("button")).toHaveLength(0);
  });
});

describe("a list of heights", () => {
  async function heights(value: number[] | null) {
    const server = fakeServer({});
    await openMoth();
    const { wrapper } = await mountAt(HeightsField, "survey", {
      label: "Also at",
      pointer: "/survey/openings/rear/heights",
      value,
    });
    const type = async (text: string) => {
      await wrapper.get("input").setValue(text);
      await wrapper.get("input").trigger("keydown", { key: "Enter" });
      await settle();
    };
    return { server, wrapper, type };
  }
  const put = (value: number[]) => [{ op: "add", path: "/survey/openings/rear/heights", value }];

  it("keeps them in order", async () => {
    const { server, type, wrapper } = await heights([700]);
    await type("300");
    expect(edits(server)).toEqual([put([300, 700])]);
    expect((wrapper.get("input").element as HTMLInputElement).value).toBe("");
  });

  it("takes the same height once", async () => {
    const { server, type } = await heights([300, 700]);
    await type("300");
    expect(edits(server)).toEqual([put([300, 700])]);
  });

  it("begins a list", async () => {
    const { server, type } = await heights(null);
    await type("450");
    expect(edits(server)).toEqual([put([450])]);
  });

  it("takes one away", async () => {
    const { server, wrapper } = await heights([300, 700]);
    await wrapper.get("[aria-label='Take away 300 mm']").trigger("click");
    await settle();
    expect(edits(server)).toEqual([put([700])]);
  });

  it("says what cannot be read, and keeps it", async () => {
    const { server, type, wrapper } = await heights([300]);
    await type("x");
    expect(wrapper.get("[role=alert]").text()).toBe("cannot be read");
    expect((wrapper.get("input").element as HTMLInputElement).value).toBe("x");
    expect(edits(server)).toEqual([]);
  });

  it("says what the server refuses, and keeps it", async () => {
    const { server, type, wrapper } = await heights([300]);
    server.refuse = {
      title: "no",
      detail: "A height is at most 5000.",
      pointer: "/survey/openings/rear/heights/1",
    };
    await type("9000");
    expect(wrapper.get("[role=alert]").text()).toContain("at most 5000");
    expect((wrapper.get("input").element as HTMLInputElement).value).toBe("9000");
    expect(useProject().revision).toBe(1);
  });
});
