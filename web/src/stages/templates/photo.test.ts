import { flushPromises } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { createPinia, setActivePinia } from "pinia";
import { mount } from "@vue/test-utils";
import { api, Refused } from "@/api/client";
import { useProject } from "@/store/project";
import PhotoFile from "./PhotoFile.vue";

const figure = (value: number) => ({ value, mm: `${value}`, inch: `i${value}` });
const READ = {
  print: "ab",
  size: [400, 300],
  sheets: [
    {
      number: 1,
      corners: [
        [0, 0],
        [10, 0],
        [10, 10],
        [0, 10],
      ],
    },
  ],
  ring: [
    [100, 100],
    [200, 100],
    [150, 200],
  ],
  middles: [[150, 100]],
  rough: figure(0.1),
  unsure: [figure(0.2), figure(0.3)],
  taped: [{ from: 1, to: 3, long: figure(2133) }],
  warnings: ["From sheet 1 to sheet 3 you taped 2133 mm."],
  curves: [],
};
/** The answer of the program, in pieces that do not end where lines do. */
function answers(...pieces: string[]) {
  const body = new ReadableStream({
    start(to) {
      pieces.forEach((p) => to.enqueue(new TextEncoder().encode(p)));
      to.close();
    },
  });
  return vi.spyOn(globalThis, "fetch").mockResolvedValue(new Response(body));
}
const stop = () => new AbortController().signal;

beforeEach(() => setActivePinia(createPinia()));
afterEach(() => vi.restoreAllMocks());

describe("an answer line by line", () => {
  it("is told as it comes, wherever it is cut", async () => {
    const text = `{"what":"One","done":0,"of":2}\n{"what":"Two","done":1,"of":2}\n${JSON.stringify(READ)}\n`;
    const fetched = answers(text.slice(0, 17), text.slice(17, 40), text.slice(40));
    const on = vi.fn();
    const read = await api.photo("moth", null, { simulated: "true" }, on, stop());
    expect(read.print).toBe("ab");
    expect(on.mock.calls).toEqual([
      ["One", 0, 2],
      ["Two", 1, 2],
    ]);
    expect(fetched.mock.calls[0]![0]).toBe("/api/projects/moth/photo?simulated=true");
  });
  it("ends with a refusal in words", async () => {
    answers(`{"problem":{"type":"x","title":"t","detail":"No sheet.","pointer":""}}\n`);
    const read = api.photo("moth", null, {}, () => {}, stop());
    await expect(read).rejects.toThrow("No sheet.");
  });
  it("says when it breaks off", async () => {
    answers(`{"what":"One","done":0,"of":2}\n{"wha`);
    const read = api.photo("moth", null, {}, () => {}, stop());
    await expect(read).rejects.toBeInstanceOf(Refused);
  });
});

describe("a photo", () => {
  async function shown() {
    const store = useProject();
    store.id = "moth";
    store.simulated = true;
    vi.spyOn(api, "tape").mockResolvedValue({ results: [{ mm: 2133 }] } as never);
    const photo = vi.spyOn(api, "photo").mockResolvedValue(READ as never);
    const view = mount(PhotoFile, {
      global: {
        stubs: { "el-button": { template: "<button><slot /></button>" }, CurveList: true },
      },
    });
    await view.get("button").trigger("click");
    await flushPromises();
    return { view, photo };
  }
  it("shows what was found and what deserves a look", async () => {
    const { view } = await shown();
    expect(view.get("polygon.edge").attributes("points")).toBe("100,100 200,100 150,200");
    expect(view.get(".warn").text()).toContain("you taped");
    expect((view.get("#taped-1-3").element as HTMLInputElement).value).toBe("2133 mm");
  });
  it("is read again where the template is tapped, without sending it", async () => {
    const { view, photo } = await shown();
    const svg = view.get("svg");
    svg.element.getBoundingClientRect = () =>
      ({ left: 10, top: 20, width: 200, height: 150 }) as DOMRect;
    await svg.trigger("click", { clientX: 110, clientY: 95 });
    await flushPromises();
    const [, file, ways] = photo.mock.calls[1]!;
    expect(file).toBeNull();
    expect(ways).toEqual({ taped: "1-3:2133", print: "ab", at: "200,150" });
  });
  it("keeps what it showed when it cannot be read again", async () => {
    const { view, photo } = await shown();
    const problem = { type: "x", title: "t", detail: "They look alike.", pointer: "" };
    photo.mockRejectedValue(new Refused(problem));
    await view.get("#taped-1-3").trigger("change");
    await flushPromises();
    expect(view.get("[role=alert]").text()).toBe("They look alike.");
    expect(view.find("polygon.edge").exists()).toBe(true);
  });
});
