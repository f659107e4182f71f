import type { Operation, Project } from "@/api/types";

/**
 * The operations that make `value` the value at `pointer`. In a list `add` would insert one more entry, so there the
 * entry is replaced; everywhere else `add` sets the member, there before or not (RFC 6902, 4.1). What the choices of a
 * piece leave out on the way, such as those about a single bay, is added first.
 */
export function putting(project: Project | null, pointer: string, value: unknown): Operation[] {
  const keys = pointer.split("/").slice(1, -1);
  const choices = keys.indexOf("choices");
  const before: Operation[] = [];
  let parent: unknown = project;
  keys.forEach((key, i) => {
    const name = key.replaceAll("~1", "/").replaceAll("~0", "~");
    parent = (parent as Record<string, unknown> | null | undefined)?.[name];
    if (parent !== undefined || choices < 0 || i <= choices) return;
    parent = {};
    before.push({ op: "add", path: `/${keys.slice(0, i + 1).join("/")}`, value: {} });
  });
  return [...before, { op: Array.isArray(parent) ? "replace" : "add", path: pointer, value }];
}
