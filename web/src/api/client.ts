import type {
  Compared,
  CurveFile,
  Cuts,
  Figure,
  Found,
  Heard,
  KindView,
  LanState,
  Listed,
  Opened,
  Remedies,
  Operation,
  Paired,
  PhotoRead,
  Plan,
  Problem,
  Project,
  Quantity,
  ReadingsTable,
  Handle,
  Scene,
  Starts,
  Suggestion,
  Variants,
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

interface Ways {
  headers?: Record<string, string>;
  /** What a body that is a file is. */
  kind?: string;
  signal?: AbortSignal;
}

async function ask<T>(method: string, path: string, body?: unknown, ways: Ways = {}) {
  const kind = body === undefined ? undefined : (ways.kind ?? "application/json");
  let answer: Response;
  try {
    answer = await fetch(path, {
      method,
      headers: { ...ways.headers, ...(kind ? { "content-type": kind } : {}) },
      signal: ways.signal,
      body:
        body === undefined
          ? undefined
          : typeof body === "string" || body instanceof Blob
            ? body
            : JSON.stringify(body),
    });
  } catch {
    if (ways.signal?.aborted)
      throw new Refused({ type: STOPPED, title: "Stopped", detail: "Stopped.", pointer: "" });
    throw new Refused({
      type: OFFLINE,
      title: "No answer",
      detail: "The program does not answer. Is it still running? What was saved is safe.",
      pointer: "",
    });
  }
  if (answer.status === 204) return undefined as T;
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

/**
 * A long answer, one JSON object a line: each is told as it comes, until one is the end. A line that is a refusal is thrown.
 */
async function lines<T, L extends object>(
  path: string,
  init: RequestInit & { signal: AbortSignal },
  end: (line: L) => T | undefined,
): Promise<T> {
  const broken = (title: string, detail: string, type: string) =>
    new Refused({ type, title, detail, pointer: "" });
  try {
    const answer = await fetch(path, { method: "POST", ...init });
    if (!answer.ok) throw new Refused((await answer.json()) as Problem);
    const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
    let rest = "";
    for (;;) {
      const { value, done } = await reader.read();
      rest += value ?? "";
      const heard = rest.split("\n");
      rest = heard.pop() ?? "";
      for (const line of heard) {
        const told = JSON.parse(line) as L | { problem: Problem };
        if ("problem" in told) throw new Refused(told.problem);
        const found = end(told);
        if (found !== undefined) return found;
      }
      if (done) throw broken("Broken off", "The answer broke off.", OFFLINE);
    }
  } catch (e) {
    if (init.signal.aborted) throw broken("Stopped", "Stopped.", STOPPED);
    if (e instanceof Refused) throw e;
    throw broken("No answer", "The program does not answer.", OFFLINE);
  }
}

/** A long search for fewer sheets. */
const searchSheets = (
  id: string,
  effort: number,
  on: (done: number, of: number) => void,
  signal: AbortSignal,
) =>
  lines(
    `${at(id)}/sheets`,
    { headers: { "content-type": "application/json" }, body: JSON.stringify({ effort }), signal },
    (line: { done: number; of: number } | Found) => {
      if ("patch" in line) return line;
      on(line.done, line.of);
    },
  );

/** A photo of a template is read; `ways` as the address takes them. */
const photo = (
  id: string,
  file: Blob | null,
  ways: Record<string, string>,
  on: (what: string, done: number, of: number) => void,
  signal: AbortSignal,
) =>
  lines(
    `${at(id)}/photo?${new URLSearchParams(ways)}`,
    {
      headers: file ? { "content-type": "application/octet-stream" } : {},
      body: file,
      signal,
    },
    (line: { what: string; done: number; of: number } | PhotoRead) => {
      if ("print" in line) return line;
      on(line.what, line.done, line.of);
    },
  );

const STOPPED = "urn:jigfit:problem:stopped";

/** The person stopped waiting for the answer. */
export const wasStopped = (e: unknown): boolean =>
  e instanceof Refused && e.problem.type === STOPPED;

const OFFLINE = "urn:jigfit:problem:offline";

/** The program did not answer at all. */
export const isOffline = (e: unknown): e is Refused =>
  e instanceof Refused && wasOffline(e.problem);
export const wasOffline = (p: Problem): boolean => p.type === OFFLINE;

/** A key for a request that may have to be sent again: the same key is the same request. */
export const freshKey = (): string =>
  // Pages of the local network are no secure context: there is no randomUUID there.
  crypto.randomUUID?.() ?? [...crypto.getRandomValues(new Uint32Array(4))].join("-");
const once = (key: string) => ({ "idempotency-key": key });

/** A mass as read, in kilograms and in words of the asker's system. */
export type Mass = { kg: number; says: string };

/** Result of one entry of the tape calculator. */
export type Tape = { mm: number; in: number; nearest: string; off_mm: number } | { error: Problem };

const at = (id: string) => `/api/projects/${encodeURIComponent(id)}`;

export const api = {
  searchSheets,
  list: () => ask<Listed[]>("GET", "/api/projects"),
  create: (name: string, kind: string, units: Project["units"], key: string) =>
    ask<Opened>("POST", "/api/projects", { name, kind, units }, { headers: once(key) }),
  importFile: (text: string) => ask<Opened>("POST", "/api/projects/import", text),
  demo: () => ask<string[]>("POST", "/api/demo"),
  duplicate: (id: string, key: string) =>
    ask<Opened>("POST", `${at(id)}/duplicate`, undefined, { headers: once(key) }),
  rescue: (id: string, key: string) =>
    ask<Opened>("POST", `${at(id)}/rescue`, undefined, { headers: once(key) }),
  remove: (id: string) => ask<void>("DELETE", at(id)),
  deleted: () => ask<Listed[]>("GET", "/api/deleted"),
  undelete: (id: string) => ask<void>("POST", `/api/deleted/${encodeURIComponent(id)}`),
  open: (id: string, signal?: AbortSignal) => ask<Opened>("GET", at(id), undefined, { signal }),
  edit: (
    id: string,
    revision: number,
    patch: Operation[],
    key = freshKey(),
    signal?: AbortSignal,
  ) =>
    ask<Opened>("PATCH", at(id), patch, {
      signal,
      headers: { "if-match": String(revision), ...once(key) },
      kind: "application/json-patch+json",
    }),
  /** Of the plan that would be, only what a view shows while it is dragged. */
  preview: (id: string, patch: Operation[], only: (keyof Plan)[]) =>
    ask<Partial<Plan>>("POST", `${at(id)}/preview?only=${only.join(",")}`, patch),
  undo: (id: string) =>
    ask<Opened>("POST", `${at(id)}/undo`, undefined, { headers: once(freshKey()) }),
  redo: (id: string) =>
    ask<Opened>("POST", `${at(id)}/redo`, undefined, { headers: once(freshKey()) }),
  versions: (id: string) => ask<Version[]>("GET", `${at(id)}/versions`),
  name: (id: string, name: string) => ask<Version>("POST", `${at(id)}/versions`, { name }),
  compare: (id: string, name: string) =>
    ask<Compared>("GET", `${at(id)}/versions/${encodeURIComponent(name)}`),
  forget: (id: string, name: string) =>
    ask<void>("DELETE", `${at(id)}/versions/${encodeURIComponent(name)}`),
  restore: (id: string, name: string) => ask<Opened>("POST", `${at(id)}/restore`, { name }),
  press: (id: string, quantity: Quantity) =>
    ask<Heard>("POST", `${at(id)}/laser/press`, { quantity }),
  scan: (id: string, file: Blob, how: Record<string, string>) =>
    ask<Cuts>("POST", `${at(id)}/scan?${new URLSearchParams(how)}`, file, {
      kind: "application/octet-stream",
    }),
  curves: (id: string, file: Blob, unit: string) =>
    ask<CurveFile>("POST", `${at(id)}/curves?${new URLSearchParams({ unit })}`, file, {
      kind: "application/octet-stream",
    }),
  photo,
  photoUrl: (id: string, print: string) => `${at(id)}/photos/${print}`,
  readings: (id: string, file: Blob) =>
    ask<ReadingsTable>("POST", `${at(id)}/readings`, file, { kind: "text/csv" }),
  exportUrl: (id: string, kind: string) => `${at(id)}/export/${kind}`,
  rawUrl: (id: string) => `${at(id)}/raw.json`,
  laserUrl: (id: string) => `${location.origin}${at(id)}/laser`,
  lan: () => ask<LanState>("GET", "/api/lan"),
  openLan: () => ask<LanState>("POST", "/api/lan"),
  closeLan: () => ask<LanState>("DELETE", "/api/lan"),
  devices: () => ask<Paired[]>("GET", "/api/devices"),
  revoke: (id: string) => ask<void>("DELETE", `/api/devices/${encodeURIComponent(id)}`),
  kinds: () => ask<KindView[]>("GET", "/api/kinds"),
  starts: (id: string, signal?: AbortSignal) =>
    ask<Starts>("GET", `${at(id)}/starts`, undefined, { signal }),
  variants: (id: string, signal?: AbortSignal) =>
    ask<Variants>("GET", `${at(id)}/variants`, undefined, { signal }),
  sweep: (id: string, piece: string, signal?: AbortSignal) =>
    ask<Scene>("GET", `${at(id)}/sweep?${new URLSearchParams({ piece })}`, undefined, { signal }),
  handles: (id: string, piece: string, signal?: AbortSignal) =>
    ask<Handle[]>("GET", `${at(id)}/handles?${new URLSearchParams({ piece })}`, undefined, {
      signal,
    }),
  remedies: (id: string, finding: string, signal?: AbortSignal, seconds?: number) => {
    const query = new URLSearchParams({ finding });
    if (seconds !== undefined) query.set("seconds", String(seconds));
    return ask<Remedies>("GET", `${at(id)}/remedies?${query}`, undefined, { signal });
  },
  suggest: (id: string, kind: string) =>
    ask<Suggestion>("POST", `${at(id)}/suggest`, { kind, set: [] }),
  between: (from: [number, number], to: [number, number]) =>
    ask<{ distance: Figure; right: Figure; up: Figure }>("POST", "/api/compute/between", {
      from,
      to,
    }),
  mass: (entry: string, system: string) =>
    ask<Mass>("POST", "/api/compute/mass", { entry, system }),
  tape: (entries: string[], unit: string, denominator: number) =>
    ask<{ results: Tape[] }>("POST", "/api/compute/tape", { entries, unit, denominator }),
};
