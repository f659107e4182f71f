import { afterEach, describe, expect, it, vi } from "vitest";
import type { Figure } from "@/api/types";
import { useView } from "@/store/view";
import { ask, edits, fakeServer, figure, mark, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import TapeBar from "./TapeBar.vue";

afterEach(() => vi.unstubAllGlobals());

async function bar(plan: object, stage = "survey") {
  const server = fakeServer(plan);
  await openMoth();
  const { wrapper } = await mountAt(TapeBar, stage);
  const enter = async (text: string) => {
    await wrapper.get("#tape-entry").setValue(text);
    await settle();
    await wrapper.get("form").trigger("submit");
    await settle();
  };
  return { server, wrapper, enter };
}

describe("which number is asked for", () => {
  it("the first one this stage needs, before mere checks", async () => {
    const { wrapper } = await bar({ asks: [ask("check", { needed: false }), ask("wall")] });
    expect(wrapper.get(".what b").text()).toBe("Measure wall");
    expect(wrapper.text()).toContain("it decides the edge");
  });

  it("on another stage the first one anything needs", async () => {
    const { wrapper } = await bar({ asks: [ask("wall")] }, "parts");
    // One slim line says where; there it is typed, or here when asked for.
    expect(wrapper.get(".what b").text()).toBe("Survey asks for: Measure wall");
    expect(wrapper.find("input").exists()).toBe(false);
    await wrapper
      .findAll("button")
      .find((b) => b.text() === "Type it here")!
      .trigger("click");
    expect(wrapper.get(".what b").text()).toBe("Measure wall");
    expect(wrapper.find("#tape-entry").exists()).toBe(true);
  });

  it("the one that was picked", async () => {
    const { wrapper } = await bar({ asks: [ask("one"), ask("two")] });
    useView().pick("two");
    await settle();
    expect(wrapper.get(".what b").text()).toBe("Measure two");
  });

  it("a reading to be taken again", async () => {
    const { wrapper, server, enter } = await bar({ asks: [ask("one")] });
    useView().measureAgain(mark("wall.left", 1));
    await settle();
    expect(wrapper.get(".what b").text()).toBe("What of wall.left, again");
    await enter("701");
    const [patch] = edits(server);
    expect(patch![0]!.value).toMatchObject({
      quantity: { of: "wall", side: "left" },
      typed: "701",
    });
  });

  it("says so when there is none left", async () => {
    const { wrapper } = await bar({ asks: [] });
    expect(wrapper.text()).toContain("Every number asked for is there.");
    expect(wrapper.find("input").exists()).toBe(false);
  });
});

describe("taking it", () => {
  it("stores a reading as typed, with unit and time", async () => {
    const { server, enter } = await bar({ asks: [ask("wall")] });
    await enter("728.7");
    const [patch] = edits(server);
    expect(patch![0]!.path).toMatch(/^\/survey\/readings\/r/);
    expect(patch![0]!.value).toMatchObject({ typed: "728.7", unit: "mm", soft: false });
    expect(Date.parse((patch![0]!.value as { when: string }).when)).not.toBeNaN();
  });

  it("marks a reading against a lining as soft", async () => {
    const soft = ask("roof");
    soft.target = { ...soft.target, may_be_soft: true } as typeof soft.target;
    const { server, wrapper, enter } = await bar({ asks: [soft] });
    await wrapper.get("input[type=checkbox]").setValue(true);
    await enter("1287");
    expect(edits(server)[0]![0]!.value).toMatchObject({ soft: true });
  });

  it("asks back once where an answer is far from what is believed", async () => {
    const { server, wrapper, enter } = await bar({
      asks: [ask("wall", { believed: [figure(690), figure(710)] })],
    });
    await enter("620");
    expect(edits(server)).toEqual([]);
    expect(wrapper.get("#tape-says").text()).toContain("620 mm? Expected between 690 and 710 mm.");
    await wrapper.get("form").trigger("submit");
    await settle();
    expect(edits(server)).toHaveLength(1);
    await enter("700");
    expect(edits(server)).toHaveLength(2);
  });

  it("takes one reading of two presses", async () => {
    const { server, wrapper } = await bar({ asks: [ask("wall")] });
    await wrapper.get("#tape-entry").setValue("700");
    await settle();
    const form = wrapper.get("form");
    await Promise.all([form.trigger("submit"), form.trigger("submit")]);
    await settle();
    expect(edits(server)).toHaveLength(1);
  });

  it("keeps what was half typed with its question", async () => {
    const { wrapper } = await bar({ asks: [ask("one"), ask("two")] });
    await wrapper.get("#tape-entry").setValue("39 1");
    useView().pick("two");
    await settle();
    expect((wrapper.get("#tape-entry").element as HTMLInputElement).value).toBe("");
    useView().pick("one");
    await settle();
    expect((wrapper.get("#tape-entry").element as HTMLInputElement).value).toBe("39 1");
    await wrapper.get("#tape-entry").setValue("");
  });

  it("corrects a reading: the old one is set aside, not counted twice", async () => {
    const { server, wrapper, enter } = await bar({ asks: [ask("one")] });
    useView().mend(mark("wall.left", 1), "wall.left-0", "700");
    await settle();
    expect((wrapper.get("#tape-entry").element as HTMLInputElement).value).toBe("700");
    await enter("710");
    const [patch] = edits(server);
    expect(patch![0]).toEqual({
      op: "add",
      path: "/survey/readings/wall.left-0/aside",
      value: true,
    });
    expect(patch![1]!.value).toMatchObject({ typed: "710" });
  });

  it("marks what changed against the last question", async () => {
    const { wrapper, enter } = await bar({
      asks: [ask("a", { prompt: "Left wall, 39 in, at the floor" })],
    });
    expect(wrapper.find("mark").exists()).toBe(false);
    useView().before = "Left wall, 39 in, 17 up";
    await settle();
    expect(wrapper.findAll("mark").map((m) => m.text())).toEqual(["at the floor"]);
    await enter("1");
  });

  it("keeps a reading while the program does not answer, and sends it once", async () => {
    const { server, enter } = await bar({ asks: [ask("wall")] });
    const { useProject } = await import("@/store/project");
    const answering = globalThis.fetch;
    let sentKey = "";
    vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
      if (init.method !== "PATCH") return answering(path, init);
      sentKey = (init.headers as Record<string, string>)["idempotency-key"]!;
      throw new TypeError("offline");
    });
    await enter("701");
    const store = useProject();
    expect(store.waiting).toHaveLength(1);
    expect(localStorage.getItem("jigfit.waiting.moth")).toContain("701");
    vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
      if (init.method === "PATCH")
        expect((init.headers as Record<string, string>)["idempotency-key"]).toBe(sentKey);
      return answering(path, init);
    });
    await store.flush();
    await settle();
    expect(store.waiting).toHaveLength(0);
    expect(edits(server)).toHaveLength(1);
  });

  it.each([
    ["far from what is believed", "391"],
    ["that cannot be read", "x"],
  ])("asks a reading back that waited and is %s", async (_, typed) => {
    const believed: [Figure, Figure] = [figure(690), figure(712)];
    const { server, wrapper, enter } = await bar({ asks: [ask("wall", { believed })] });
    const { useProject } = await import("@/store/project");
    const store = useProject();
    const answering = globalThis.fetch;
    vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
      if (init.method !== "GET") throw new TypeError("offline");
      return answering(path, init);
    });
    await enter(typed);
    expect(store.waiting).toHaveLength(1);
    vi.stubGlobal("fetch", answering);
    await store.flush();
    await settle();
    expect(store.waiting).toHaveLength(0);
    expect(edits(server)).toHaveLength(0);
    expect(wrapper.get<HTMLInputElement>("#tape-entry").element.value).toBe(typed);
    await enter("701");
    expect(edits(server)).toHaveLength(1);
    expect(store.returned).toEqual([]);
  });

  it("stores what waited and was read another way: what is believed is of something else", async () => {
    const believed: [Figure, Figure] = [figure(690), figure(712)];
    const other = { of: "width", x: 1, z: 0 } as never;
    const instead = [{ prompt: "Wall to wall", quantity: other }] as never;
    const { server, wrapper, enter } = await bar({ asks: [ask("wall", { believed, instead })] });
    const { useProject } = await import("@/store/project");
    const store = useProject();
    const answering = globalThis.fetch;
    vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
      if (init.method !== "GET") throw new TypeError("offline");
      return answering(path, init);
    });
    await wrapper.get(".instead button").trigger("click");
    await enter("1410");
    vi.stubGlobal("fetch", answering);
    await store.flush();
    await settle();
    expect(store.returned).toEqual([]);
    expect(edits(server)[0]![0]!.value).toMatchObject({ quantity: other, typed: "1410" });
  });

  it("writes a number of the document in millimetres", async () => {
    const target = { to: "field", pointer: "/gear/a/h" } as never;
    const { server, enter } = await bar({ asks: [ask("h", { stage: "stow", target })] }, "stow");
    await enter("200");
    expect(edits(server)).toEqual([[{ op: "add", path: "/gear/a/h", value: 200 }]]);
  });

  it("stores nothing that cannot be read, and nothing at all from an empty entry", async () => {
    const { server, wrapper, enter } = await bar({ asks: [ask("wall")] });
    await enter("x");
    expect(wrapper.get(".error").text()).toBe("cannot be read");
    await enter("   ");
    expect(wrapper.get(".error").text()).toBe("Type what the tape says.");
    expect(edits(server)).toEqual([]);
  });

  it("shows what is expected", async () => {
    const expected = { figure: figure(729), plus_minus: figure(6) };
    const { wrapper } = await bar({ asks: [ask("wall", { expected })] });
    expect(wrapper.text()).toContain("expected 729 ±6");
  });

  it("skips what cannot be reached", async () => {
    const { server, wrapper } = await bar({ asks: [ask("roof.700")] });
    await wrapper
      .findAll("button")
      .find((b) => b.text() === "Can’t reach")!
      .trigger("click");
    await settle();
    expect(edits(server)).toEqual([
      [{ op: "add", path: "/survey/skipped/roof.700", value: "cannot be reached" }],
    ]);
  });
});

describe("other ways to a number", () => {
  it("reads another quantity instead when that is chosen", async () => {
    const width = { of: "width", x: 1, z: 0 } as const;
    const server = fakeServer({
      asks: [ask("wall", { instead: [{ prompt: "Wall to wall", quantity: width }] })],
    });
    await openMoth();
    const { wrapper } = await mountAt(TapeBar, "survey");
    await wrapper.get(".instead button").trigger("click");
    await wrapper.get("#tape-entry").setValue("1400");
    await wrapper.get("form").trigger("submit");
    await settle();
    expect(edits(server)[0]![0]!.value).toMatchObject({ quantity: width, instrument: "tape" });
  });

  it("takes what the laser says, and tells it from the tape", async () => {
    const server = fakeServer({ asks: [ask("wall")] });
    const store = await openMoth();
    const { wrapper } = await mountAt(TapeBar, "survey");
    store.shot = { project: "moth", device: "l", seq: 1, mm: 1403, lost: 0, simulated: false };
    await settle();
    const entry = wrapper.get("#tape-entry").element as HTMLInputElement;
    expect(entry.value).toBe("1403 mm");
    await wrapper.get("form").trigger("submit");
    await settle();
    expect(edits(server)[0]![0]!.value).toMatchObject({ typed: "1403 mm", instrument: "laser" });
  });

  it("leaves alone what the laser says for another project", async () => {
    fakeServer({ asks: [ask("wall")] });
    const store = await openMoth();
    const { wrapper } = await mountAt(TapeBar, "survey");
    store.shot = { project: "other", device: "l", seq: 1, mm: 5, lost: 0, simulated: false };
    await settle();
    expect((wrapper.get("#tape-entry").element as HTMLInputElement).value).toBe("");
  });

  it("keeps what was half typed when the phone goes to sleep", async () => {
    fakeServer({ asks: [ask("wall")] });
    await openMoth();
    const first = await mountAt(TapeBar, "survey");
    await first.wrapper.get("#tape-entry").setValue("28 1");
    first.wrapper.unmount();
    const second = await mountAt(TapeBar, "survey");
    const entry = second.wrapper.get("#tape-entry");
    expect((entry.element as HTMLInputElement).value).toBe("28 1");
    await entry.setValue("");
  });

  it("marks a ridge where one is asked for", async () => {
    const server = fakeServer({
      asks: [ask("ridge.nose", { target: { to: "ridge", id: "nose" } })],
    });
    await openMoth();
    const { wrapper } = await mountAt(TapeBar, "survey");
    await wrapper.get("#tape-entry").setValue("2300");
    await wrapper.get("form").trigger("submit");
    await settle();
    expect(edits(server)[0]).toEqual([
      { op: "add", path: "/survey/stations/nose", value: { x: 2300, ridge: true } },
    ]);
  });
});
