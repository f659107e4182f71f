import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { edits, fakeServer, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import MassField from "./MassField.vue";

let server: ReturnType<typeof fakeServer>;
beforeEach(async () => {
  server = fakeServer({});
  await openMoth();
});
afterEach(() => vi.unstubAllGlobals());

async function field(value: number | null) {
  const props = { label: "Mass", pointer: "/gear/a/mass", value, empty: "?" };
  const { wrapper } = await mountAt(MassField, "stow", props);
  await settle();
  const input = wrapper.get("input");
  const enter = async (text: string) => {
    await input.setValue(text);
    void input.trigger("keydown", { key: "Enter" });
    await input.trigger("blur");
    await settle();
  };
  return { wrapper, input, enter };
}

describe("a mass of the document", () => {
  it("shows what is stored with its unit", async () => {
    const { input } = await field(6);
    expect(input.element.value).toBe("6 kg");
  });

  it("is typed over when what is stored comes while the hand is in it", async () => {
    const { wrapper, input } = await field(6);
    input.element.focus();
    await wrapper.setProps({ value: 15 });
    await settle();
    const { value, selectionStart, selectionEnd } = input.element;
    expect([value, selectionStart, selectionEnd]).toEqual(["15 kg", 0, 5]);
  });

  it("stores what the core read, once, in kilograms", async () => {
    const { enter } = await field(6);
    await enter("15 lb");
    expect(edits(server)).toEqual([[{ op: "add", path: "/gear/a/mass", value: 15 }]]);
    expect(server.sent.find((s) => (s.body as { entry?: string })?.entry === "15 lb")).toBeTruthy();
  });

  it("is emptied, and says what it cannot read", async () => {
    const { wrapper, enter } = await field(6);
    await enter("heavy");
    expect(wrapper.text()).toContain("is no number");
    expect(edits(server)).toEqual([]);
    await enter("");
    expect(edits(server)).toEqual([[{ op: "add", path: "/gear/a/mass", value: null }]]);
  });
});
