import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { edits, fakeServer, openMoth } from "@/testing/demo";
import { mountAt, settle } from "@/testing/mount";
import PlainField from "./PlainField.vue";

let server: ReturnType<typeof fakeServer>;
beforeEach(async () => {
  server = fakeServer({});
  await openMoth();
});
afterEach(() => vi.unstubAllGlobals());

async function commit(props: object, text: string) {
  const { wrapper } = await mountAt(PlainField, "stow", {
    label: "Mass",
    pointer: "/gear/a/mass",
    kind: "number",
    value: 3,
    ...props,
  });
  const input = wrapper.get("input");
  await input.setValue(text);
  await input.trigger("blur");
  await settle();
  return wrapper;
}

it("stores a number, with a comma as well as with a point", async () => {
  await commit({}, "3,5");
  expect(edits(server)).toEqual([[{ op: "add", path: "/gear/a/mass", value: 3.5 }]]);
});

it("refuses what is no number at the field", async () => {
  const wrapper = await commit({}, "heavy");
  expect(wrapper.get("[role=alert]").text()).toBe("This is not a number.");
  expect(edits(server)).toEqual([]);
});

it("needs a number unless it may be empty", async () => {
  expect((await commit({}, "")).get("[role=alert]").text()).toBe("A number is needed.");
  await commit({ empty: "?" }, "");
  expect(edits(server)).toEqual([[{ op: "add", path: "/gear/a/mass", value: null }]]);
});

it("stores a text as it is, and nothing when it did not change", async () => {
  await commit({ kind: "text", pointer: "/name", value: "Moth" }, "Moth");
  expect(edits(server)).toEqual([]);
  await commit({ kind: "text", pointer: "/name", value: "Moth" }, " Owl, grey ");
  expect(edits(server)).toEqual([[{ op: "add", path: "/name", value: "Owl, grey" }]]);
});
