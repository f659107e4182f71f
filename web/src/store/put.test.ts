import { describe, expect, it } from "vitest";
import type { Project } from "@/api/types";
import { putting } from "./put";

const project = {
  survey: { fixings: { "a/b": { at: [0, 0, 0], name: "ring" } } },
} as unknown as Project;

describe("the operation that sets a value", () => {
  it("replaces an entry of a list, which add would insert before", () => {
    expect(putting(project, "/survey/fixings/a~1b/at/0", 120)).toEqual({
      op: "replace",
      path: "/survey/fixings/a~1b/at/0",
      value: 120,
    });
  });
  it("adds a member, there before or not", () => {
    for (const field of ["name", "depth"])
      expect(putting(project, `/survey/fixings/a~1b/${field}`, null).op).toBe("add");
    expect(putting(null, "/units/system", "in").op).toBe("add");
  });
});
