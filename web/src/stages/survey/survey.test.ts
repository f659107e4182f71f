import { afterEach, describe, expect, it, vi } from "vitest";
import { useView } from "@/store/view";
import { ask, edits, fakeServer, figure, finding, mark, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import PhoneSurvey from "./PhoneSurvey.vue";
import SurveyTable from "./SurveyTable.vue";

afterEach(() => vi.unstubAllGlobals());

const survey = (marks: ReturnType<typeof mark>[]) => ({
  marks,
  bays: [],
  things: [],
  readings: marks.length,
  noise: figure(1),
  roof: [],
  floor: [],
  stations: [],
});

describe("the table of readings", () => {
  async function table(marks: ReturnType<typeof mark>[], project = {}) {
    const server = fakeServer({ survey: survey(marks) as never }, project);
    await openMoth();
    return { server, ...(await mountAt(SurveyTable, "survey", { z: 0 })) };
  }

  it("filters by side and by trouble", async () => {
    const { wrapper } = await table([mark("left", 1), mark("right", 2, "disagrees")]);
    const tab = async (name: string) => {
      await wrapper
        .findAll(".tab")
        .find((t) => t.text() === name)!
        .trigger("click");
      return wrapper.findAll("tbody tr").map((r) => r.find("td").text());
    };
    expect(await tab("all")).toHaveLength(2);
    expect(await tab("left")).toEqual(["What of left"]);
    expect(await tab("right")).toEqual(["What of right"]);
    expect(await tab("trouble")).toEqual(["What of right"]);
    expect(wrapper.text()).toContain("do not agree (4 apart)");
  });

  it("sets one of two readings aside, never away", async () => {
    const { wrapper, server } = await table([mark("right", 2)]);
    await wrapper
      .findAll("button")
      .find((b) => b.text() === "set aside")!
      .trigger("click");
    await settle();
    expect(edits(server)).toEqual([
      [{ op: "add", path: "/survey/readings/right-0/aside", value: true }],
    ]);
  });

  it("measures again on request", async () => {
    const { wrapper } = await table([mark("left", 1)]);
    await wrapper
      .findAll("button")
      .find((b) => b.text().startsWith("again"))!
      .trigger("click");
    expect(useView().again?.key).toBe("left");
  });

  it("asks again for what could not be reached", async () => {
    const skipped = { survey: { skipped: { "roof.700": "x" }, readings: {}, levels: {} } };
    const { wrapper, server } = await table([mark("left", 1)], skipped);
    expect(wrapper.text()).toContain("1 could not be reached.");
    await wrapper.get(".skipped button").trigger("click");
    await settle();
    expect(edits(server)).toEqual([[{ op: "add", path: "/survey/skipped", value: {} }]]);
  });
});

describe("in the vehicle", () => {
  async function phone(plan: object) {
    const server = fakeServer({ survey: survey([]) as never, ...plan });
    await openMoth();
    const { wrapper } = await mountAt(PhoneSurvey, "survey");
    const press = async (...keys: string[]) => {
      for (const k of keys) await wrapper.get(`[aria-label="${k}"]`).trigger("click");
      await settle();
      return (wrapper.get(".shown input").element as HTMLInputElement).value;
    };
    return { server, wrapper, press };
  }

  it("types millimetres and centimetres with one thumb", async () => {
    const { press, wrapper } = await phone({ asks: [ask("wall")] });
    expect(await press("2", "8", ",", "4")).toBe("28,4");
    expect(await press("delete", "delete")).toBe("28");
    await wrapper
      .findAll("button")
      .find((b) => b.text() === "cm")!
      .trigger("click");
    await settle();
    expect((wrapper.get(".shown input").element as HTMLInputElement).value).toBe("28 cm");
  });

  it("types whole inches and taps the mark: every sixteenth, none misread", async () => {
    localStorage.clear();
    const units = { system: "in", tape: "in", denominator: 16 };
    const server = fakeServer(
      { survey: survey([]) as never, asks: [ask("wall")] },
      { units, survey: { readings: {}, levels: {}, skipped: {} } },
    );
    await openMoth();
    const { wrapper } = await mountAt(PhoneSurvey, "survey");
    const value = () => (wrapper.get(".shown input").element as HTMLInputElement).value;
    for (const k of ["3", "9"]) await wrapper.get(`[aria-label="${k}"]`).trigger("click");
    const inch = wrapper.get("[role=slider]");
    const seen: string[] = [];
    for (let i = 0; i < 15; i++) {
      await inch.trigger("keydown", { key: "ArrowRight" });
      await settle();
      seen.push(value());
    }
    expect(seen[0]).toBe("39 1/16");
    expect(seen[1]).toBe("39 1/8");
    expect(seen[7]).toBe("39 1/2");
    expect(seen[14]).toBe("39 15/16");
    expect(new Set(seen).size).toBe(15);
    await wrapper.get("form").trigger("submit");
    await settle();
    expect(server.sent.filter((s) => s.method === "PATCH")).toHaveLength(1);
  });

  it("tells a disagreement while one still stands there", async () => {
    const { wrapper } = await phone({ asks: [ask("wall")], findings: [finding("twice", "stop")] });
    expect(wrapper.get("[role=alert]").text()).toBe("sentence of twice");
  });

  it("leads on when all is measured", async () => {
    const { wrapper } = await phone({ asks: [] });
    expect(wrapper.text()).toContain("Everything asked for is measured.");
    expect(wrapper.get("a").attributes("href")).toContain("/stow");
  });
});
