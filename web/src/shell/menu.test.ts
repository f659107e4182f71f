import { afterEach, describe, expect, it, vi } from "vitest";
import { useProject } from "@/store/project";
import { edits, fakeServer, openMoth, refusalOf } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import ClashDialog from "./ClashDialog.vue";
import ProjectMenu from "./ProjectMenu.vue";
import TopBar from "./TopBar.vue";

afterEach(() => vi.unstubAllGlobals());

const VERSIONS = "/api/projects/moth/versions";

async function menu(answers: Record<string, unknown> = {}) {
  const server = fakeServer({});
  server.answers = { [`GET ${VERSIONS}`]: [], ...answers };
  await openMoth();
  const { wrapper } = await mountAt(ProjectMenu, "survey", { modelValue: false });
  await wrapper.setProps({ modelValue: true } as never);
  await settle();
  const button = (name: string) => wrapper.findAll("button").find((b) => b.text() === name)!;
  return { server, wrapper, button };
}

describe("the menu", () => {
  it("gives every kind of file away under the project's name", async () => {
    const { wrapper } = await menu();
    const links = wrapper.findAll(".files a");
    const files = links.map((a) => a.attributes("download"));
    expect(new Set(files).size).toBe(links.length);
    expect(files).toContain("moth-parts.pdf");
    for (const a of links) {
      expect(a.attributes("href")).toMatch(/^\/api\/projects\/moth\/export\/[a-z]+\.[a-z]+$/);
    }
  });

  it("names the state as it is", async () => {
    const { wrapper, server } = await menu({ [`POST ${VERSIONS}`]: { name: "x", at: "" } });
    expect(wrapper.text()).toContain("None yet. Name the state before you cut");
    server.answers[`GET ${VERSIONS}`] = [
      { name: "before I cut the deck", at: "2026-11-14T10:00:00Z" },
    ];
    await wrapper.findAll("form")[1]!.trigger("submit");
    await settle();
    expect(server.sent.filter((s) => s.path === VERSIONS && s.method === "POST")).toHaveLength(1);
    expect(wrapper.get(".versions").text()).toContain("before I cut the deck");
  });

  it("says why a name will not do", async () => {
    const { wrapper } = await menu({
      [`POST ${VERSIONS}`]: refusalOf("There is a version of that name."),
    });
    await wrapper.findAll("form")[1]!.trigger("submit");
    await settle();
    expect(wrapper.get("[role=alert]").text()).toBe("There is a version of that name.");
  });

  it("brings a state back and closes", async () => {
    const { wrapper, server, button } = await menu({
      [`GET ${VERSIONS}`]: [{ name: "old", at: "2026-11-14T10:00:00Z" }],
    });
    server.revision = 7;
    await button("Bring back").trigger("click");
    await settle();
    const restored = server.sent.find((s) => s.path === "/api/projects/moth/restore");
    expect(restored?.body).toEqual({ name: "old" });
    expect(useProject().revision).toBe(7);
    expect(wrapper.emitted("update:modelValue")?.at(-1)).toEqual([false]);
  });
});

describe("the top bar", () => {
  it("switches the whole project to the other system, tape included", async () => {
    const server = fakeServer({});
    await openMoth();
    const { wrapper } = await mountAt(TopBar, "survey");
    const switches = wrapper.get("[aria-label=Units]").findAll("button");
    expect(switches.map((b) => b.attributes("aria-pressed"))).toEqual(["false", "true"]);
    await switches[0]!.trigger("click");
    await settle();
    expect(edits(server)).toEqual([
      [
        { op: "add", path: "/units/system", value: "in" },
        { op: "add", path: "/units/tape", value: "in" },
      ],
    ]);
  });
});

describe("the same thing changed in two windows", () => {
  const CLASH = {
    type: "urn:jigfit:problem:conflict",
    title: "Changed elsewhere",
    detail: "…",
    pointer: "/gear/a/h",
    revision: 3,
    conflicts: [{ pointer: "/gear/a/h", theirs: 300, yours: 338 }],
  };

  async function clash() {
    const server = fakeServer({});
    const store = await openMoth();
    server.refuse = CLASH;
    const patch = [{ op: "add" as const, path: "/gear/a/h", value: 338 }];
    await store.change(patch);
    server.refuse = null;
    const { wrapper } = await mountAt(ClashDialog, "survey");
    await settle();
    const press = async (name: string) => {
      await wrapper
        .findAll("button")
        .find((b) => b.text() === name)!
        .trigger("click");
      await settle();
    };
    return { server, store, wrapper, patch, press };
  }

  it("shows both values and where", async () => {
    const { wrapper, store } = await clash();
    expect(store.clash).not.toBeNull();
    const cells = wrapper.findAll("tbody td").map((c) => c.text());
    expect(cells).toEqual(["gear › a › h", "300", "338"]);
  });

  it("stores mine on top when I say so", async () => {
    const { server, store, patch, press } = await clash();
    await press("Use mine");
    expect(edits(server)).toEqual([patch, patch]);
    expect(store.clash).toBeNull();
  });

  it("keeps theirs otherwise", async () => {
    const { server, store, patch, press } = await clash();
    await press("Keep what is there");
    expect(edits(server)).toEqual([patch]);
    expect(store.clash).toBeNull();
  });
});
