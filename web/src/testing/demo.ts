import { createPinia, setActivePinia } from "pinia";
import { vi } from "vitest";
import type { Ask, Figure, Finding, Ladder, Mark, Opened, Operation, RungView } from "@/api/types";
import { useProject } from "@/store/project";

/** A figure with made-up inches: components only show what they are given. */
export const figure = (value: number): Figure => ({
  value,
  mm: String(value),
  inch: `i${value}`,
});

export function ask(key: string, more: Partial<Ask> = {}): Ask {
  return {
    stage: "survey",
    key,
    prompt: `Measure ${key}`,
    how: "push the tape flat",
    why: "it decides the edge",
    target: {
      to: "reading",
      may_be_soft: false,
      quantity: { of: "roof", x: 1 },
    } as Ask["target"],
    needed: true,
    ...more,
  };
}

export function finding(id: string, level: Finding["level"], stage = "survey"): Finding {
  return {
    id,
    check: "check",
    subject: id,
    level,
    stage,
    sentence: `sentence of ${id}`,
    numbers: [{ op: "-", label: "a number", figure: figure(12) }],
    rule: "the rule",
    source: "the source",
    show: { stage: "heights", mark: id },
    offers: [],
  };
}

export function rung(underside: number, label: string, chosen = false): RungView {
  return {
    underside: figure(underside),
    label,
    kind: "gear",
    sleep_surface: figure(underside + 95),
    seat: figure(underside + 70),
    headroom: figure(1200 - underside - 70),
    fits: [],
    sits: [],
    chosen,
  };
}

export function ladder(chosen: number): Ladder {
  return {
    floor_to_roof: figure(1200),
    soft: false,
    deck: figure(15),
    mattress: figure(80),
    sat_on: figure(55),
    rungs: [rung(200, "low fits"), rung(250, "case fits"), rung(300, "tall fits")],
    chosen: rung(chosen, "chosen", true),
    candidates: [],
    items: [],
    fixed: [],
    people: [],
  };
}

export function mark(key: string, readings: number, state = "ok"): Mark {
  return {
    key,
    quantity: { of: "wall", side: key.includes("left") ? "left" : "right", x: 100, z: 0 },
    what: `What of ${key}`,
    figure: figure(700),
    sd: 1,
    state,
    spread: figure(4),
    readings: Array.from({ length: readings }, (_, i) => ({
      id: `${key}-${i}`,
      typed: `70${i}`,
      unit: "mm",
      sd: 1,
      instrument: "tape" as const,
      figure: figure(700 + i),
      when: `2026-11-14T10:0${i}:00Z`,
      soft: false,
      aside: false,
    })),
    place: { view: "plan", from: [100, 0, 0], to: [100, 700, 0] },
    z: 0,
  };
}

export interface Sent {
  path: string;
  method: string;
  body: unknown;
}

function read(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}

/** A refusal as the server words it. */
export const refusalOf = (detail: string, pointer = "", status = 422) =>
  new Response(JSON.stringify({ type: "", title: "no", detail, pointer }), { status });

/** A server that reads tapes as millimetres (`x` is unreadable), takes every edit, and remembers
 * what it was sent. `refuse` is what the next edits are answered with. */
export function fakeServer(plan: Partial<Opened["plan"]>, project: object = {}) {
  const sent: Sent[] = [];
  const server = {
    sent,
    refuse: null as object | null,
    revision: 1,
    project: project as object,
    /** Answers to other requests: `GET /api/projects` -> body. A `Response` is given as it is. */
    answers: {} as Record<string, unknown>,
  };
  const opened = () => ({
    id: "moth",
    revision: server.revision,
    changed: "2026-11-14T10:00:00Z",
    project: {
      name: "Moth",
      units: { system: "mm", tape: "mm", denominator: 16 },
      survey: { readings: {}, levels: {}, skipped: {} },
      ...server.project,
    },
    plan: {
      asks: [],
      findings: [],
      stages: [],
      parts: [],
      decks: [],
      modules: [],
      boards: [],
      views: { above: [], side: [], behind: [] },
      evening: { states: [], moves: [] },
      survey: {
        marks: [],
        bays: [],
        things: [],
        readings: 3,
        noise: figure(1),
        roof: [],
        floor: [],
      },
      ladder: null,
      cost: 68,
      unpriced: 0,
      ...plan,
    },
    can_undo: server.revision > 1,
    can_redo: false,
  });
  vi.stubGlobal(
    "EventSource",
    class {
      addEventListener() {}
      close() {}
    },
  );
  vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
    const body = typeof init.body === "string" ? read(init.body) : null;
    sent.push({ path, method: init.method!, body });
    const other = server.answers[`${init.method} ${path.split("?")[0]}`];
    if (other instanceof Response) return other.clone();
    if (other !== undefined) return new Response(JSON.stringify(other));
    if (path === "/api/compute/tape") {
      const results = (body as { entries: string[] }).entries.map((text, i) => {
        const mm = Number.parseFloat(text);
        return Number.isNaN(mm)
          ? { error: { title: "no", detail: "cannot be read", pointer: `/entries/${i}` } }
          : { mm, in: mm / 25.4, nearest: `i${mm}`, off_mm: 0 };
      });
      return new Response(JSON.stringify({ results }));
    }
    if (path === "/api/compute/mass") {
      const kg = Number.parseFloat(String((body as { entry: string }).entry));
      if (Number.isNaN(kg)) return refusalOf("is no number", "/entry");
      return new Response(JSON.stringify({ kg, says: `${kg} kg` }));
    }
    if (init.method === "PATCH") {
      if (server.refuse) return new Response(JSON.stringify(server.refuse), { status: 422 });
      server.revision += 1;
    }
    return new Response(JSON.stringify(opened()));
  });
  return server;
}

/** Edits that were sent, one patch each. */
export const edits = (server: { sent: Sent[] }) =>
  server.sent.filter((s) => s.method === "PATCH").map((s) => s.body as Operation[]);

export async function openMoth() {
  setActivePinia(createPinia());
  const store = useProject();
  await store.open("moth");
  return store;
}
