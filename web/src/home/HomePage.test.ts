import { createPinia, setActivePinia } from "pinia";
import { afterEach, describe, expect, it, vi } from "vitest";
import { fakeServer, refusalOf } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import HomePage from "./HomePage.vue";

afterEach(() => vi.unstubAllGlobals());

const LISTED = [
  { id: "moth", name: "Moth", kind: "van", revision: 1, changed: "2026-11-14T10:00:00Z" },
  { id: "king", name: "Kingfisher", kind: "boat", revision: 2, changed: "2026-11-15T10:00:00Z" },
];

async function home(answers: Record<string, unknown> = {}) {
  const server = fakeServer({});
  server.answers = { "GET /api/projects": LISTED, ...answers };
  setActivePinia(createPinia());
  const { wrapper, router } = await mountAt(HomePage, "survey");
  await settle();
  const button = (name: string) => wrapper.findAll("button").find((b) => b.text() === name)!;
  const where = () => router.currentRoute.value;
  const bodies = (path: string) => server.sent.filter((s) => s.path === path).map((s) => s.body);
  return { server, wrapper, button, where, bodies };
}

describe("the first page", () => {
  it("lists what there is: kind in words, edits counted without the start", async () => {
    const { wrapper } = await home();
    const rows = wrapper.findAll(".list li").map((l) => l.text().replaceAll(/\s+/g, " "));
    expect(rows[0]).toMatch(/^Moth ?Panel van · 14\/11\/2026 · 0 edits ?Duplicate ?Delete$/);
    expect(rows[1]).toMatch(/^Kingfisher ?Small boat · 15\/11\/2026 · 1 edit ?Duplicate ?Delete$/);
  });

  it("says the one thing to do when there is nothing", async () => {
    const { wrapper } = await home({ "GET /api/projects": [] });
    expect(wrapper.text()).toContain("None yet. Start with your vehicle");
  });

  it("says so when the server does not answer, and does not stay empty", async () => {
    const { wrapper } = await home({
      "GET /api/projects": refusalOf("The data file is locked by another program.", "", 503),
    });
    expect(wrapper.get("[role=alert]").text()).toContain("locked");
    expect(wrapper.text()).toContain("None yet");
  });

  it("starts a project in the units of the person's tape", async () => {
    const { wrapper, where, bodies } = await home({ "POST /api/projects": { id: "wren" } });
    await wrapper.get("#new-name").setValue("Wren");
    await wrapper.get("input[value=boat]").setValue();
    const tapes = wrapper.findAll("input[name=tape]");
    await tapes[1]!.setValue();
    await wrapper.get("form").trigger("submit");
    await settle();
    expect(bodies("/api/projects").at(-1)).toMatchObject({
      kind: "boat",
      units: { system: "in", tape: "in", denominator: 16 },
    });
    expect(where().name).toBe("survey");
    expect(where().params.id).toBe("wren");
  });

  it("makes one project of two presses", async () => {
    const { wrapper, server } = await home({ "POST /api/projects": { id: "wren" } });
    await wrapper.get("#new-name").setValue("Wren");
    const form = wrapper.get("form");
    await Promise.all([form.trigger("submit"), form.trigger("submit")]);
    await settle();
    const made = server.sent.filter((s) => s.path === "/api/projects" && s.method === "POST");
    expect(made).toHaveLength(1);
  });

  it("deletes with a way back, and offers what can be read of a damaged one", async () => {
    const at = "2026-11-14T10:00:00Z";
    const { wrapper, server } = await home({
      "GET /api/projects": [
        { id: "moth", name: "Moth", kind: "van", revision: 1, changed: at },
        { id: "bad", name: "bad", kind: "", revision: 9, changed: at, damaged: "x", last_good: 7 },
      ],
      "DELETE /api/projects/moth": new Response(null, { status: 204 }),
      "POST /api/deleted/moth": new Response(null, { status: 204 }),
    });
    expect(wrapper.get(".damaged").text()).toContain("Open its last good state");
    expect(wrapper.get(".damaged a").attributes("href")).toBe("/api/projects/bad/raw.json");
    await wrapper.get('[aria-label="Delete Moth"]').trigger("click");
    await settle();
    expect(wrapper.get("[role=status]").text()).toContain("Moth is deleted.");
    await wrapper.get("[role=status] button").trigger("click");
    await settle();
    expect(server.sent.some((s) => s.path === "/api/deleted/moth" && s.method === "POST")).toBe(
      true,
    );
  });

  it("opens the demo", async () => {
    const { button, where } = await home({ "POST /api/demo": ["kingfisher", "moth"] });
    await button("Open the demo").trigger("click");
    await settle();
    expect(where().params.id).toBe("moth");
  });

  it("tells where a file is wrong, and stays", async () => {
    const { wrapper, where } = await home({
      "POST /api/projects/import": refusalOf("A wall is at most 5000.", "/survey/readings/r1"),
    });
    const input = wrapper.get("input[type=file]");
    const file = new File(["{}"], "moth.json");
    Object.defineProperty(input.element, "files", { value: [file] });
    await input.trigger("change");
    await settle();
    expect(wrapper.get("[role=alert]").text()).toBe(
      "A wall is at most 5000. (at /survey/readings/r1)",
    );
    expect(where().params.id).toBe("moth");
    expect(where().path).toBe("/p/moth/survey");
  });
});
