import type { Operation, Project } from "@/api/types";

/**
 * The operation that makes `value` the value at `pointer`. In a list `add` would insert one more entry, so there the
 * entry is replaced; everywhere else `add` sets the member, there before or not (RFC 6902, 4.1).
 */
export function putting(project: Project | null, pointer: string, value: unknown): Operation {
  const keys = pointer.split("/").slice(1, -1);
  const unescaped = keys.map((k) => k.replaceAll("~1", "/").replaceAll("~0", "~"));
  const parent = unescaped.reduce<unknown>(
    (o, key) => (o as Record<string, unknown> | null | undefined)?.[key],
    project,
  );
  return { op: Array.isArray(parent) ? "replace" : "add", path: pointer, value };
}
