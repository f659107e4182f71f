import { applyPatch, deepClone } from "fast-json-patch";
import { defineStore } from "pinia";
import { computed, ref, shallowRef } from "vue";
import { api, freshKey, isOffline, Refused, wasStopped } from "@/api/client";
import { surprise } from "@/units/surprise";
import { keepDraft } from "./drafts";
import { putting } from "./put";
import type { Conflict, Opened, Operation, Plan, Problem, Project, Shot } from "@/api/types";

/** Two edits of one place: both values, and the edit that waits for a decision. */
export interface Clash {
  conflicts: Conflict[];
  patch: Operation[];
}

/** An edit that waits until the program answers again, with its key: it goes once. */
export interface Waiting {
  patch: Operation[];
  key: string;
  /** What it answers, so that it is not asked for meanwhile. */
  about: string;
}

/** A request that takes longer than this shows that it does, ms. */
const SLOW = 500;
/** While edits wait the program is asked again every so often, ms. */
const AGAIN = 3000;

/** The open project: document and plan, edits in order, undo, live updates. */
export const useProject = defineStore("project", () => {
  const id = ref("");
  const revision = ref(0);
  const changed = ref("");
  const project = shallowRef<Project | null>(null);
  const plan = shallowRef<Plan | null>(null);
  const previewed = shallowRef<Plan | null>(null);
  const canUndo = ref(false);
  const canRedo = ref(false);
  const saving = ref(0);
  const failed = ref<Problem | null>(null);
  const clash = ref<Clash | null>(null);
  const shot = shallowRef<Shot | null>(null);
  const simulated = ref(false);
  const waiting = shallowRef<Waiting[]>([]);
  /** Questions whose answer waited and was not stored: it cannot be read, or is far from what is believed. */
  const returned = ref<string[]>([]);
  /** Something has been going on for more than half a second. */
  const slow = ref(false);
  /** Counts undo and redo: what is half typed in a field is put back then. */
  const rewound = ref(0);
  let going: AbortController | null = null;
  let flushing = 0;
  let queue: Promise<unknown> = Promise.resolve();
  /** Edits that are shown and not answered yet, in order. */
  let shownFirst: Operation[][] = [];
  let events: EventSource | null = null;

  function take(opened: Opened) {
    // An answer of a project that was left meanwhile must not stand under the address of another one.
    if (opened.id !== id.value) return;
    // A slower answer must not put an older state back.
    if (opened.revision < revision.value) return;
    revision.value = opened.revision;
    changed.value = opened.changed;
    // An answer knows nothing of the edits made after its own: they stay in sight, and what is being typed in them.
    project.value = shownFirst.reduce(patched, opened.project);
    plan.value = opened.plan;
    canUndo.value = opened.can_undo;
    canRedo.value = opened.can_redo;
    simulated.value = opened.simulated;
  }

  /** With an edit; unchanged where the server will say what is wrong with it. */
  function patched(base: Project, patch: Operation[]): Project {
    try {
      return applyPatch(deepClone(base) as Project, deepClone(patch)).newDocument;
    } catch {
      return base;
    }
  }

  /** Shows a sign when `work` takes long; the person may stop waiting. */
  async function watched<T>(work: (signal: AbortSignal) => Promise<T>): Promise<T> {
    const mine = new AbortController();
    going = mine;
    const sign = setTimeout(() => (slow.value = true), SLOW);
    try {
      return await work(mine.signal);
    } finally {
      clearTimeout(sign);
      if (going === mine) {
        going = null;
        slow.value = false;
      }
    }
  }

  function stopWaiting() {
    going?.abort();
  }

  function inOrder<T>(work: () => Promise<T>): Promise<T> {
    const next = queue.then(work, work);
    queue = next.catch(() => undefined);
    return next;
  }

  async function open(which: string) {
    close();
    id.value = which;
    revision.value = 0;
    waiting.value = kept(which);
    take(await watched((signal) => api.open(which, signal)));
    if (waiting.value.length) void flush();
    events = new EventSource(`/api/projects/${encodeURIComponent(which)}/events`);
    events.addEventListener("laser", (event) => {
      shot.value = JSON.parse((event as MessageEvent<string>).data) as Shot;
    });
    events.addEventListener("change", (event) => {
      const theirs = Number((event as MessageEvent<string>).data);
      if (theirs === 0 || theirs > revision.value) void inOrder(refresh);
    });
  }

  const shelf = (which: string) => `jigfit.waiting.${which}`;
  function kept(which: string): Waiting[] {
    try {
      return JSON.parse(localStorage.getItem(shelf(which)) ?? "[]") as Waiting[];
    } catch {
      return [];
    }
  }
  function keep(list: Waiting[]) {
    waiting.value = list;
    if (list.length) localStorage.setItem(shelf(id.value), JSON.stringify(list));
    else localStorage.removeItem(shelf(id.value));
  }

  /** What waited is asked back like what is typed now: the text returns to its question. */
  async function comesBack(next: Waiting): Promise<boolean> {
    const asked = plan.value?.asks.find((a) => a.key === next.about);
    const reading = next.patch.at(-1)?.value as
      { typed?: string; unit?: string; quantity?: unknown } | undefined;
    const target = asked?.target;
    if (target?.to !== "reading" || !reading?.typed) return false;
    // Read another way than asked: what is believed is of something else.
    if (JSON.stringify(reading.quantity) !== JSON.stringify(target.quantity)) return false;
    const denominator = project.value?.units?.denominator ?? 16;
    const answer = await api.tape([reading.typed], reading.unit ?? "mm", denominator);
    const read = answer.results[0];
    if (!read || !("error" in read || surprise(asked?.believed ?? null, read, system.value)))
      return false;
    keepDraft(`${id.value}.${next.about}`, reading.typed);
    returned.value = [...returned.value, next.about];
    keep(waiting.value.filter((w) => w.key !== next.key));
    return true;
  }

  /** A question is answered. */
  function answered(about: string) {
    returned.value = returned.value.filter((key) => key !== about);
  }

  /** Sends what waits, in order, each once; tries again while the program does not answer. */
  async function flush(): Promise<void> {
    clearTimeout(flushing);
    const next = waiting.value[0];
    const which = id.value;
    if (!next) return;
    try {
      if (await comesBack(next)) {
        await flush();
        return;
      }
      await inOrder(async () => take(await api.edit(which, revision.value, next.patch, next.key)));
    } catch (e) {
      if (isOffline(e)) {
        flushing = window.setTimeout(() => void flush(), AGAIN);
        return;
      }
      if (!(e instanceof Refused)) throw e;
      failed.value = e.problem;
    }
    if (id.value !== which) return;
    keep(waiting.value.filter((w) => w.key !== next.key));
    await flush();
  }

  async function refresh() {
    if (id.value) take(await api.open(id.value));
  }

  function close() {
    clearTimeout(flushing);
    events?.close();
    events = null;
    shownFirst = [];
    project.value = null;
    plan.value = null;
    leave();
    failed.value = null;
    clash.value = null;
    shot.value = null;
    returned.value = [];
  }

  /** Shows the edit at once, stores it, and takes the plan that follows. Throws what was refused. */
  async function edit(patch: Operation[], key = freshKey()): Promise<void> {
    const base = project.value;
    const which = id.value;
    const then = revision.value;
    if (!base) return;
    // What is pulled at from now on is tried all the same, before this one is stored.
    pass();
    failed.value = null;
    project.value = patched(base, patch);
    shownFirst.push(patch);
    const answeredNow = () => (shownFirst = shownFirst.filter((p) => p !== patch));
    saving.value += 1;
    try {
      await inOrder(async () => {
        const before = id.value === which ? revision.value : then;
        try {
          await watched(async (signal) => {
            const answer = await api.edit(which, before, patch, key, signal);
            answeredNow();
            take(answer);
          });
        } catch (e) {
          answeredNow();
          if (!wasStopped(e)) throw e;
          await takeBack(which, before);
        }
      });
    } catch (e) {
      // Back to what is stored.
      await refresh().catch(() => {
        if (id.value === which) project.value = base;
      });
      if (!(e instanceof Refused)) throw e;
      if (e.problem.conflicts?.length && id.value === which) {
        clash.value = { conflicts: e.problem.conflicts, patch };
        return;
      }
      throw e;
    } finally {
      saving.value -= 1;
      previewed.value = null;
    }
  }

  /** Undoes an edit for whose plan nobody wanted to wait, if it got as far as the store. */
  async function takeBack(which: string, before: number) {
    const listed = (await api.list()).find((p) => p.id === which);
    if (listed?.revision === before + 1) take(await api.undo(which));
    else await refresh();
  }

  /** Makes `value` the value at `pointer`. Throws what was refused. */
  async function put(pointer: string, value: unknown): Promise<void> {
    await edit([putting(project.value, pointer, value)]);
  }

  /** As `edit`, with the refusal told instead of thrown. */
  async function change(patch: Operation[], key?: string): Promise<boolean> {
    try {
      await edit(patch, key);
      return true;
    } catch (e) {
      failed.value = e instanceof Refused ? e.problem : null;
      if (!(e instanceof Refused)) throw e;
      return false;
    }
  }

  /** Stores a reading; while the program does not answer it waits here, and goes once when it does. */
  async function record(patch: Operation[], key: string, about: string): Promise<boolean> {
    if (waiting.value.length) {
      keep([...waiting.value, { patch, key, about }]);
      void flush();
      return true;
    }
    try {
      await edit(patch, key);
      return true;
    } catch (e) {
      if (isOffline(e)) {
        keep([...waiting.value, { patch, key, about }]);
        flushing = window.setTimeout(() => void flush(), AGAIN);
        return true;
      }
      if (!(e instanceof Refused)) throw e;
      failed.value = e.problem;
      return false;
    }
  }

  async function history(step: "undo" | "redo") {
    rewound.value += 1;
    if (step === "undo" ? !canUndo.value : !canRedo.value) return;
    const which = id.value;
    try {
      await inOrder(async () => take(await api[step](which)));
    } catch (e) {
      if (e instanceof Refused) failed.value = e.problem;
      await refresh();
    }
  }

  /** Decides a clash: mine is stored on top, theirs is kept. */
  async function settle(mine: boolean) {
    const waiting = clash.value;
    clash.value = null;
    if (mine && waiting) await change(waiting.patch);
  }

  /** What is tried once the answer before it is there: of what is passed on the way only the newest counts. */
  let next: { try: () => Promise<boolean>; done: (can: boolean) => void } | null = null;
  let trying = false;
  /** Counts how often what was tried was given up or chosen: later answers to it are not shown. */
  let over = 0;

  /** What was tried so far is over. */
  function pass() {
    over += 1;
    next?.done(false);
    next = null;
  }
  /** Nothing is tried any more. */
  function leave() {
    pass();
    previewed.value = null;
  }

  /**
   * The plan as it would be, as far as it is in sight meanwhile. Whether it can be; what was passed on the way before
   * anybody asked is not tried, and counts as what cannot.
   */
  async function preview(patch: Operation[] | null, only: (keyof Plan)[] = []): Promise<boolean> {
    if (!patch) {
      leave();
      return true;
    }
    const mine = over;
    const tried = async () => {
      trying = true;
      try {
        const answer = await api.preview(id.value, patch, only);
        if (mine === over && plan.value) previewed.value = { ...plan.value, ...answer };
        return true;
      } catch (e) {
        if (!(e instanceof Refused)) throw e;
        return false;
      } finally {
        trying = false;
        const then = next;
        next = null;
        void then?.try().then(then.done, () => then.done(false));
      }
    };
    if (!trying) return tried();
    next?.done(false);
    return new Promise((done) => (next = { try: tried, done }));
  }

  const shown = computed(() => previewed.value ?? plan.value);
  const system = computed(() => project.value?.units?.system ?? "mm");

  return {
    id,
    revision,
    changed,
    project,
    plan,
    shown,
    previewed,
    canUndo,
    canRedo,
    saving,
    failed,
    clash,
    shot,
    simulated,
    waiting,
    returned,
    answered,
    slow,
    stopWaiting,
    record,
    flush,
    system,
    open,
    close,
    refresh,
    take,
    rewound,
    edit,
    put,
    change,
    history,
    settle,
    preview,
  };
});
