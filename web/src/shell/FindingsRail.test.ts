import { afterEach, expect, it, vi } from "vitest";
import { useView } from "@/store/view";
import { edits, fakeServer, finding, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import FindingsRail from "./FindingsRail.vue";

afterEach(() => vi.unstubAllGlobals());

async function rail(findings: ReturnType<typeof finding>[], stage = "survey") {
  const server = fakeServer({ findings });
  await openMoth();
  return { server, ...(await mountAt(FindingsRail, stage)) };
}

it("puts the worst first, and of equals those of this stage", async () => {
  const { wrapper } = await rail(
    [
      finding("a", "fine"),
      finding("b", "stop", "layout"),
      finding("c", "stop", "heights"),
      finding("d", "look"),
    ],
    "heights",
  );
  const order = wrapper.findAll(".finding").map((f) => f.text().match(/sentence of (\w)/)![1]);
  // What is fine is folded away until it is asked for.
  expect(order).toEqual(["c", "b", "d"]);
});

it("tells levels by word and shape, not by colour alone", async () => {
  const { wrapper } = await rail([
    finding("a", "stop"),
    finding("b", "look"),
    finding("c", "fine"),
  ]);
  await wrapper
    .findAll("button")
    .find((b) => b.text() === "1 checked and fine")!
    .trigger("click");
  expect(wrapper.findAll(".level").map((l) => l.text())).toEqual(["■ Stop", "◧ Look", "○ Fine"]);
  expect(wrapper.get(".handle").text()).toContain("1 stop, 1 look, 1 fine");
});

it("shows the sentence first; rule, source and numbers when asked", async () => {
  const { wrapper } = await rail([finding("a", "stop")]);
  expect(wrapper.find(".rule").exists()).toBe(false);
  expect(wrapper.find(".numbers").exists()).toBe(false);
  const button = wrapper.findAll("button").find((b) => b.text() === "Numbers")!;
  await button.trigger("click");
  expect(wrapper.get(".numbers").text()).toContain("- 12");
  expect(wrapper.get(".rule").text()).toBe("the rule. the source.");
  expect(button.attributes("aria-expanded")).toBe("true");
});

it("goes where the finding is and marks it", async () => {
  const { wrapper, router } = await rail([finding("water", "stop")]);
  await wrapper
    .findAll("button")
    .find((b) => b.text() === "Show me")!
    .trigger("click");
  await settle();
  expect(router.currentRoute.value.name).toBe("heights");
  expect(useView().marked).toBe("water");
});

const TRIED = "GET /api/projects/moth/remedies";
const patch = [{ op: "add", path: "/modules/deck/choices/underside", value: 348 }];
const raise = { label: "Raise the deck", cost: "headroom less", patch: patch as never };
const press = async (wrapper: Awaited<ReturnType<typeof rail>>["wrapper"], words: string) => {
  await wrapper
    .findAll("button")
    .find((b) => b.text() === words)!
    .trigger("click");
  await settle();
};

it("shows what an offer does, worked out when it is asked for, and does it", async () => {
  const f = finding("a", "stop");
  f.offers = [raise];
  const { wrapper, server } = await rail([f]);
  server.answers[TRIED] = {
    offers: [{ ...raise, cost: "headroom less; then stops: no" }],
    all: true,
  };
  const asked = () => server.sent.filter((s) => s.path.includes("/remedies"));
  expect(asked()).toEqual([]);
  await press(wrapper, "Fix …");
  expect(asked().map((s) => s.path)).toEqual(["/api/projects/moth/remedies?finding=a"]);
  expect(wrapper.get(".offer").text()).toContain("then stops: no");
  await wrapper.get(".offer button").trigger("click");
  await settle();
  expect(edits(server)).toEqual([patch]);
  // In the plan after it the same change may do something else.
  expect(asked()).toHaveLength(2);
});

it("tries changes against a stop without an offer, but not against a reading", async () => {
  const { wrapper, server } = await rail([
    finding("a", "stop", "heights"),
    finding("b", "look", "heights"),
    finding("c", "stop", "survey"),
  ]);
  server.answers[TRIED] = { offers: [], all: false };
  const helps = wrapper.findAll("button").filter((b) => b.text() === "What would help?");
  expect(helps).toHaveLength(1);
  await press(wrapper, "What would help?");
  // The time was over: what was not tried yet is tried on request.
  server.answers[TRIED] = { offers: [raise], all: true };
  await press(wrapper, "Search longer");
  expect(server.sent.at(-1)!.path).toContain("seconds=25");
  expect(wrapper.get(".offer").text()).toContain("Raise the deck");
});

it("says so when there is nothing yet", async () => {
  const { wrapper } = await rail([]);
  expect(wrapper.text()).toContain("Findings come with the first readings.");
});
