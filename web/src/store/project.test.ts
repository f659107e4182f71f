import { createPinia, setActivePinia } from "pinia";
import { watch } from "vue";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Opened, Operation } from "@/api/types";
import { useProject } from "./project";

/** A server in miniature: a name, a revision, and what the next edit is answered with. */
const server = {
  revision: 1,
  name: "Moth",
  refuse: null as null | { status: number; body: object },
  seen: [] as { method: string; path: string; match: string | null }[],
};

function opened(): Partial<Opened> {
  return {
    id: "moth",
    revision: server.revision,
    changed: "2026-11-14T10:00:00Z",
    project: { name: server.name } as Opened["project"],
    plan: { findings: [], parts: ["D1"] } as unknown as Opened["plan"],
    can_undo: server.revision > 1,
    can_redo: false,
  };
}

beforeEach(() => {
  setActivePinia(createPinia());
  Object.assign(server, { revision: 1, name: "Moth", refuse: null, seen: [] });
  vi.stubGlobal(
    "EventSource",
    class {
      addEventListener() {}
      close() {}
    },
  );
  vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
    const headers = init.headers as Record<string, string>;
    server.seen.push({ method: init.method!, path, match: headers["if-match"] ?? null });
    if (init.method === "PATCH") {
      if (server.refuse)
        return new Response(JSON.stringify(server.refuse.body), { status: server.refuse.status });
      const [first] = JSON.parse(init.body as string) as Operation[];
      server.name = first!.value as string;
      server.revision += 1;
    }
    return new Response(JSON.stringify(opened()), { status: 200 });
  });
});
afterEach(() => vi.unstubAllGlobals());

const rename = (value: string): Operation[] => [{ op: "add", path: "/name", value }];

describe("edits", () => {
  it("shows an edit at once and keeps it when it was stored", async () => {
    const store = useProject();
    await store.open("moth");
    const done = store.edit(rename("Owl"));
    expect(store.project?.name).toBe("Owl");
    expect(store.saving).toBe(1);
    await done;
    expect(store.revision).toBe(2);
    expect(store.canUndo).toBe(true);
    expect(store.saving).toBe(0);
  });

  it("sends quick edits in order, each against the revision before it", async () => {
    const store = useProject();
    await store.open("moth");
    await Promise.all([store.edit(rename("A")), store.edit(rename("B")), store.edit(rename("C"))]);
    const matches = server.seen.filter((s) => s.method === "PATCH").map((s) => s.match);
    expect(matches).toEqual(["1", "2", "3"]);
    expect(store.project?.name).toBe("C");
  });

  it("keeps later edits in sight while earlier ones are answered", async () => {
    const store = useProject();
    await store.open("moth");
    const first = store.edit(rename("A"));
    const second = store.edit([{ op: "add", path: "/notes", value: "of a new row" }]);
    const shown: unknown[] = [];
    watch(
      () => store.project,
      (now) => shown.push((now as { notes?: string }).notes),
      { flush: "sync" },
    );
    await first;
    // What the second adds is there when the first is answered: nothing typed into it is lost.
    expect(shown[0]).toBe("of a new row");
    await second;
    // The server in miniature knows names only: after the last answer its word counts.
    expect(store.project).toEqual({ name: "of a new row" });
  });

  it("puts back what is stored when an edit is refused, and says why", async () => {
    const store = useProject();
    await store.open("moth");
    server.refuse = { status: 422, body: { title: "x", detail: "too long", pointer: "/name" } };
    expect(await store.change(rename("Owl"))).toBe(false);
    expect(store.project?.name).toBe("Moth");
    expect(store.failed?.detail).toBe("too long");
  });

  it("takes an edit back whose plan nobody wanted to wait for", async () => {
    const store = useProject();
    await store.open("moth");
    const plain = globalThis.fetch;
    vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
      if (path === "/api/projects")
        return new Response(JSON.stringify([{ id: "moth", revision: server.revision }]));
      const answer = await plain(path, init);
      if (path.endsWith("/undo")) {
        server.name = "Moth";
        server.revision += 1;
        return new Response(JSON.stringify(opened()));
      }
      if (init.method !== "PATCH") return answer;
      // Stored, but the plan does not come.
      return new Promise<Response>((_, reject) =>
        init.signal!.addEventListener("abort", () => reject(new DOMException("", "AbortError"))),
      );
    });
    const done = store.edit(rename("Owl"));
    await vi.waitFor(() => expect(store.slow).toBe(true), 2000);
    store.stopWaiting();
    await done;
    expect(store.project?.name).toBe("Moth");
    expect(server.seen.filter((s) => s.path.endsWith("/undo"))).toHaveLength(1);
  });

  it("keeps both values of a clash until one is chosen", async () => {
    const store = useProject();
    await store.open("moth");
    const conflicts = [{ pointer: "/name", theirs: "Bat", yours: "Owl" }];
    server.refuse = { status: 409, body: { detail: "changed", pointer: "/name", conflicts } };
    await store.edit(rename("Owl"));
    expect(store.clash?.conflicts).toEqual(conflicts);
    server.refuse = null;
    await store.settle(true);
    expect(store.clash).toBeNull();
    expect(server.name).toBe("Owl");
  });

  it("does not put an older state back", async () => {
    const store = useProject();
    await store.open("moth");
    await store.edit(rename("Owl"));
    store.take({ ...(opened() as Opened), revision: 1, project: { name: "old" } as never });
    expect(store.project?.name).toBe("Owl");
  });
});

describe("a preview", () => {
  /** A server that answers previews when it is told to, the oldest first. */
  function slow() {
    const plain = globalThis.fetch;
    const waiting: ((findings: string[]) => Promise<void>)[] = [];
    const paths: string[] = [];
    vi.stubGlobal("fetch", (path: string, init: RequestInit) => {
      if (!path.includes("/preview")) return plain(path, init);
      paths.push(`${path} ${(JSON.parse(String(init.body)) as { value: string }[])[0]!.value}`);
      return new Promise<Response>((done) => {
        waiting.push(async (findings) => {
          done(new Response(JSON.stringify({ findings })));
          await new Promise((later) => setTimeout(later));
        });
      });
    });
    return { paths, answer: (findings: string[]) => waiting.shift()!(findings) };
  }

  it("shows what it was asked for, the rest as it is", async () => {
    const store = useProject();
    await store.open("moth");
    const { paths, answer } = slow();
    const can = store.preview(rename("A"), ["findings"]);
    await answer(["of A"]);
    expect(await can).toBe(true);
    expect(paths).toEqual(["/api/projects/moth/preview?only=findings A"]);
    expect(store.shown?.findings).toEqual(["of A"]);
    expect(store.shown?.parts).toEqual(store.plan?.parts);
    expect(store.plan?.parts).toEqual(["D1"]);
    await store.preview(null);
    expect(store.shown?.findings).toEqual([]);
  });

  it("asks once at a time, for the newest of what came meanwhile", async () => {
    const store = useProject();
    await store.open("moth");
    const { paths, answer } = slow();
    const tried = ["A", "B", "C"].map((name) => store.preview(rename(name), ["findings"]));
    expect(paths).toHaveLength(1);
    await answer(["of A"]);
    expect(store.shown?.findings).toEqual(["of A"]);
    await answer(["of C"]);
    expect(paths.map((p) => p.at(-1))).toEqual(["A", "C"]);
    expect(await Promise.all(tried)).toEqual([true, false, true]);
    expect(store.shown?.findings).toEqual(["of C"]);
  });

  it("goes on with what is pulled at while the last is being stored", async () => {
    const store = useProject();
    await store.open("moth");
    const { answer } = slow();
    const stored = store.edit(rename("B"));
    const tried = store.preview(rename("C"), ["findings"]);
    await stored;
    await answer(["of C"]);
    expect(await tried).toBe(true);
    expect(store.shown?.findings).toEqual(["of C"]);
  });

  it("shows no answer that comes after something was chosen", async () => {
    const store = useProject();
    await store.open("moth");
    const { answer } = slow();
    const tried = [store.preview(rename("A")), store.preview(rename("B"))];
    await store.edit(rename("B"));
    await answer(["of A"]);
    expect(await Promise.all(tried)).toEqual([true, false]);
    expect(store.previewed).toBeNull();
  });
});
