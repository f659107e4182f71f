import type {
  Cuts,
  Heard,
  Listed,
  Opened,
  Operation,
  Plan,
  Problem,
  Project,
  Quantity,
  ReadingsTable,
  Version,
} from "./types";

/** A request that was refused; `problem` says why. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** A refusal in a sentence, with what would have been accepted. */
export function refusal(problem: Problem): string {
  return problem.allowed ? `${problem.detail} Allowed: ${problem.allowed}.` : problem.detail;
}

async function ask<T>(method: string, path: string, body?: unknown, headers: HeadersInit = {}) {
  let answer: Response;
  try {
    answer = await fetch(path, {
      method,
      headers: {
        ...headers,
        ...(body === undefined || body instanceof Blob
          ? {}
          : { "content-type": "application/json" }),
      },
      body:
        body === undefined
          ? undefined
          : typeof body === "string" || body instanceof Blob
            ? body
            : JSON.stringify(body),
    });
  } catch {
    throw new Refused({
      type: "urn:jigfit:problem:offline",
      title: "No answer",
      detail: "The program does not answer. Is it still running? What was saved is safe.",
      pointer: "",
    });
  }
  const text = await answer.text();
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    json = { type: "", title: answer.statusText, detail: text.slice(0, 200), pointer: "" };
  }
  if (!answer.ok) throw new Refused(json as Problem);
  return json as T;
}

/** Result of one entry of the tape calculator. */
export type Tape = { mm: number; in: number; nearest: string; off_mm: number } | { error: Problem };

const at = (id: string) => `/api/projects/${encodeURIComponent(id)}`;

export const api = {
  list: () => ask<Listed[]>("GET", "/api/projects"),
  create: (name: string, kind: string, units: Project["units"]) =>
    ask<Opened>("POST", "/api/projects", { name, kind, units }),
  importFile: (text: string) => ask<Opened>("POST", "/api/projects/import", text),
  demo: () => ask<string[]>("POST", "/api/demo"),
  open: (id: string) => ask<Opened>("GET", at(id)),
  edit: (id: string, revision: number, patch: Operation[]) =>
    ask<Opened>("PATCH", at(id), patch, { "if-match": String(revision) }),
  preview: (id: string, patch: Operation[]) => ask<Plan>("POST", `${at(id)}/preview`, patch),
  undo: (id: string) => ask<Opened>("POST", `${at(id)}/undo`),
  redo: (id: string) => ask<Opened>("POST", `${at(id)}/redo`),
  versions: (id: string) => ask<Version[]>("GET", `${at(id)}/versions`),
  name: (id: string, name: string) => ask<Version>("POST", `${at(id)}/versions`, { name }),
  restore: (id: string, name: string) => ask<Opened>("POST", `${at(id)}/restore`, { name }),
  press: (id: string, quantity: Quantity) =>
    ask<Heard>("POST", `${at(id)}/laser/press`, { quantity }),
  scan: (id: string, file: Blob, how: Record<string, string>) =>
    ask<Cuts>("POST", `${at(id)}/scan?${new URLSearchParams(how)}`, file),
  readings: (id: string, file: Blob) => ask<ReadingsTable>("POST", `${at(id)}/readings`, file),
  exportUrl: (id: string, kind: string) => `${at(id)}/export/${kind}`,
  tape: (entries: string[], unit: string, denominator: number) =>
    ask<{ results: Tape[] }>("POST", "/api/compute/tape", { entries, unit, denominator }),
};
