import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { edits, fakeServer, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import LengthField from "./LengthField.vue";

let server: ReturnType<typeof fakeServer>;
beforeEach(async () => {
  server = fakeServer({});
  await openMoth();
});
afterEach(() => vi.unstubAllGlobals());

async function field(props: object = {}) {
  const { wrapper } = await mountAt(LengthField, "stow", {
    label: "Height",
    pointer: "/gear/a/h",
    value: 338,
    ...props,
  });
  await settle();
  const input = wrapper.get("input");
  const type = async (text: string) => {
    await input.setValue(text);
    await settle();
  };
  const enter = async () => {
    await input.trigger("keydown", { key: "Enter" });
    await settle();
  };
  return { wrapper, input, type, enter };
}

describe("a length of the document", () => {
  it("shows what is stored, and the other system beside it", async () => {
    const { wrapper, input } = await field();
    expect(input.element.value).toBe("338");
    expect(wrapper.text()).toContain("i338″");
  });

  it("is typed over when what is stored comes while the hand is in it", async () => {
    const { wrapper, input } = await field();
    input.element.focus();
    await wrapper.setProps({ value: 400 });
    await settle();
    const { value, selectionStart, selectionEnd } = input.element;
    expect([value, selectionStart, selectionEnd]).toEqual(["400", 0, 3]);
  });

  it("has what is stored read once", async () => {
    await field();
    expect(server.sent.filter((s) => s.path.endsWith("/compute/tape"))).toHaveLength(1);
  });

  it("says what is typed before it is taken", async () => {
    const { wrapper, type } = await field();
    await type("9 in");
    expect(wrapper.text()).toContain("= 9 mm");
    expect(edits(server)).toEqual([]);
  });

  it("stores on Enter, once, also when the focus leaves at the same moment", async () => {
    const { input, type } = await field();
    await type("400");
    void input.trigger("keydown", { key: "Enter" });
    await input.trigger("blur");
    await settle();
    expect(edits(server)).toEqual([[{ op: "add", path: "/gear/a/h", value: 400 }]]);
  });

  it("takes a second entry without leaving the field", async () => {
    const { type, enter } = await field();
    await type("400");
    await enter();
    await type("410");
    await enter();
    expect(edits(server)).toHaveLength(2);
  });

  it("tells what cannot be read and stores nothing", async () => {
    const { wrapper, type, enter } = await field();
    await type("x");
    await enter();
    expect(wrapper.get("[role=alert]").text()).toBe("cannot be read");
    expect(wrapper.get("input").attributes("aria-invalid")).toBe("true");
    expect(edits(server)).toEqual([]);
  });

  it("tells what the server refuses, with what is allowed, and keeps the entry", async () => {
    server.refuse = {
      title: "t",
      detail: "not possible",
      pointer: "/gear/a/h",
      allowed: "1 to 5000",
    };
    const { wrapper, input, type, enter } = await field();
    await type("90000");
    await enter();
    expect(wrapper.get("[role=alert]").text()).toBe("not possible Allowed: 1 to 5000.");
    expect(input.element.value).toBe("90000");
  });

  it("empties a field that may be empty, and puts back one that may not", async () => {
    const may = await field({ empty: "?" });
    await may.type("");
    await may.enter();
    expect(edits(server)).toEqual([[{ op: "add", path: "/gear/a/h", value: null }]]);
    const mayNot = await field();
    await mayNot.type("");
    await mayNot.enter();
    expect(edits(server)).toHaveLength(1);
    expect(mayNot.input.element.value).toBe("338");
  });

  it("sends nothing when nothing changed", async () => {
    const { type, enter } = await field();
    await type("338");
    await enter();
    expect(edits(server)).toEqual([]);
  });
});
