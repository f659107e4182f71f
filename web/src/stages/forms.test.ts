import { afterEach, describe, expect, it, vi } from "vitest";
import type { Component } from "vue";
import { edits, fakeServer, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import StockTable from "./cut/StockTable.vue";
import StowStage from "./stow/StowStage.vue";

afterEach(() => vi.unstubAllGlobals());

async function form(component: Component, stage: string, project: object) {
  const server = fakeServer({ materials: [] } as never, project);
  await openMoth();
  const { wrapper } = await mountAt(component, stage);
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

describe("the stow list", () => {
  const PROJECT = {
    gear: {
      "a/b": { name: "Telescope case", h: 338, w: 1100, d: 340, count: 1, under_deck: true },
    },
    people: { p: { name: "Sleeper 1.84", stature: 1840 } },
    mattress: { thickness: 80, sag: 25 },
  };

  it("says what to do while there is nothing", async () => {
    const { wrapper } = await form(StowStage, "stow", { gear: {}, people: {} });
    expect(wrapper.text()).toContain("Nothing yet. Put in the first thing");
  });

  it("takes a thing out by its escaped key", async () => {
    const { press, server } = await form(StowStage, "stow", PROJECT);
    await press("Remove Telescope case");
    expect(edits(server)).toEqual([[{ op: "remove", path: "/gear/a~1b" }]]);
  });

  it("keeps a thing elsewhere than under the deck", async () => {
    const { wrapper, server } = await form(StowStage, "stow", PROJECT);
    const under = wrapper.findAll("label").find((l) => l.text() === "under the deck")!;
    await under.get("input").setValue(false);
    await settle();
    expect(edits(server)).toEqual([[{ op: "add", path: "/gear/a~1b/under_deck", value: false }]]);
  });

  it("stores a size as the tape says it", async () => {
    const { wrapper, server } = await form(StowStage, "stow", PROJECT);
    const case_ = wrapper.get("[aria-label='Telescope case']");
    const height = case_
      .findAll(".field")
      .find((f) => f.text().startsWith("Height"))!
      .get("input");
    await height.setValue("345");
    await height.trigger("keydown", { key: "Enter" });
    await settle();
    expect(edits(server)).toEqual([[{ op: "add", path: "/gear/a~1b/h", value: 345 }]]);
  });
});

describe("sheets and saw", () => {
  it("assumes a usual sheet while there is none", async () => {
    const { wrapper } = await form(StockTable, "cut", { stock: {} });
    expect(wrapper.text()).toContain("a usual sheet of 2440 × 1220 mm is assumed");
  });

  it("adds a sheet of what the deck is made of", async () => {
    const choices = { material: "softwood-ply", thickness: 18 };
    const modules = { deck: { kind: "deck", choices } };
    const { press, server } = await form(StockTable, "cut", { stock: {}, modules });
    await press("Add a sheet");
    expect(edits(server)[0]![0]!).toMatchObject({
      op: "add",
      value: { material: "softwood-ply", thickness: 18, w: 2440, h: 1220 },
    });
  });

  it("removes a sheet", async () => {
    const stock = { s1: { material: "birch-ply", thickness: 12, w: 1525, h: 1525 } };
    const { press, server } = await form(StockTable, "cut", { stock });
    await press("Remove sheet 12 mm");
    expect(edits(server)).toEqual([[{ op: "remove", path: "/stock/s1" }]]);
  });

  it("says at the field that a price is no word", async () => {
    const stock = { s1: { material: "birch-ply", thickness: 12, w: 1525, h: 1525, cost: 60 } };
    const { wrapper, server } = await form(StockTable, "cut", { stock });
    const price = wrapper
      .findAll(".field")
      .find((f) => f.text().startsWith("Price"))!
      .get("input");
    await price.setValue("dear");
    await price.trigger("blur");
    await settle();
    expect(wrapper.get("[role=alert]").text()).toBe("This is not a number.");
    expect(edits(server)).toEqual([]);
    // Emptied, it is not known: that is allowed.
    await price.setValue("");
    await price.trigger("blur");
    await settle();
    expect(edits(server)).toEqual([[{ op: "add", path: "/stock/s1/cost", value: null }]]);
  });
});
