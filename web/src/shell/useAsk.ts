import { computed, nextTick, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { api, freshKey, Refused, refusal, wasOffline } from "@/api/client";
import type { Ask, Mark, Operation, Quantity } from "@/api/types";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { surprise } from "@/units/surprise";
import { escapePointer, freshId } from "@/units/text";
import { useTape } from "@/units/useTape";
import { useDraft } from "./useDraft";

/** A quantity to be read once more. */
function askOf(mark: Mark, prompt: string, how: string, why: string): Ask {
  return {
    stage: "survey",
    key: mark.key,
    prompt,
    how,
    why,
    target: { to: "reading", quantity: mark.quantity, may_be_soft: true },
    place: mark.place,
    needed: false,
    again: true,
    minutes: 0.5,
  };
}

/** The number asked for now, what is typed for it, and taking it. */
export function useAsk() {
  const store = useProject();
  const view = useView();
  const route = useRoute();
  const soft = ref(false);
  const note = ref("");
  const error = ref("");
  /** The answer is far from what is believed: asked back once. */
  const doubted = ref("");
  const instead = ref<Quantity | null>(null);
  const laser = ref<{ text: string; as: "laser" | "simulated" } | null>(null);
  const busy = ref(false);
  let key = "";

  const open = computed(() => {
    const waits = new Set(store.waiting.map((w) => w.about));
    return (store.plan?.asks ?? []).filter((a) => !waits.has(a.key));
  });
  const ask = computed<Ask | null>(() => {
    const mending = view.mending;
    if (mending)
      return askOf(
        mending.mark,
        mending.mark.what,
        "You are correcting the last number: the old one is kept, but not counted.",
        "Type what it should have been.",
      );
    if (view.again)
      return askOf(
        view.again,
        `${view.again.what}, again`,
        "Measure it once more. Both readings are kept.",
        "A second reading finds a slip, and makes the first one surer.",
      );
    const here = open.value.filter((a) => a.stage === route.name);
    return (
      here.find((a) => a.key === view.picked) ??
      here.find((a) => store.returned.includes(a.key)) ??
      here.find((a) => a.needed) ??
      (route.name === "survey" ? here[0] : undefined) ??
      open.value.find((a) => a.needed) ??
      null
    );
  });
  /** Typed while the program did not answer, and not stored: it is looked at first. */
  const cameBack = computed(() => ask.value !== null && store.returned.includes(ask.value.key));
  /** It belongs to another stage than the one that is looked at. */
  const elsewhere = computed(() => ask.value !== null && ask.value.stage !== route.name);
  // What was being typed stays with its question, also when the phone went to sleep.
  const entry = useDraft(() => `${store.id}.${view.mending ? "mend." : ""}${ask.value?.key ?? ""}`);
  const { result, read } = useTape(entry);

  /** The prompt in its parts; those that differ from the last question are marked. */
  const parts = computed(() => {
    const old = new Set(view.before.split(", "));
    const known = view.before !== "" && view.before !== ask.value?.prompt;
    return (ask.value?.prompt ?? "")
      .split(", ")
      .map((text) => ({ text, changed: known && !old.has(text) }));
  });

  watch(
    () => ask.value?.key,
    () => {
      soft.value = false;
      error.value = "";
      doubted.value = "";
      instead.value = null;
    },
  );
  watch(entry, () => {
    error.value = "";
    doubted.value = "";
    key = "";
  });
  watch(
    () => view.mending,
    (mending) => {
      if (mending) entry.value = mending.typed;
    },
    { flush: "post" },
  );
  watch(
    () => store.shot,
    (shot) => {
      if (!shot || shot.project !== store.id || ask.value?.target.to !== "reading") return;
      entry.value = `${shot.mm} mm`;
      laser.value = { text: entry.value, as: shot.simulated ? "simulated" : "laser" };
    },
  );

  function patchFor(target: Ask["target"], mm: number): Operation[] {
    if (target.to === "ridge")
      return [{ op: "add", path: `/survey/stations/${target.id}`, value: { x: mm, ridge: true } }];
    if (target.to === "field") return [{ op: "add", path: target.pointer, value: mm }];
    const mended: Operation[] = view.mending
      ? [
          {
            op: "add",
            path: `/survey/readings/${escapePointer(view.mending.id)}/aside`,
            value: true,
          },
        ]
      : [];
    return [
      ...mended,
      {
        op: "add",
        path: `/survey/readings/${freshId("r")}`,
        value: {
          quantity: instead.value ?? (target.quantity as Quantity),
          typed: entry.value.trim(),
          unit: store.project?.units?.tape ?? "mm",
          when: new Date().toISOString(),
          soft: soft.value,
          instrument: laser.value?.text === entry.value ? laser.value.as : "tape",
          note: note.value.trim(),
        },
      },
    ];
  }

  /** Takes what is typed; true if it was stored. One press, one thing. */
  async function take(): Promise<boolean> {
    const target = ask.value?.target;
    const question = ask.value?.key ?? "";
    const prompt = ask.value?.prompt ?? "";
    if (busy.value) return false;
    if (!target || !entry.value.trim()) {
      error.value = "Type what the tape says.";
      return false;
    }
    busy.value = true;
    try {
      const answer = await read();
      // While the program does not answer a reading waits as typed; it is read when it arrives.
      const away = answer && "error" in answer && wasOffline(answer.error);
      const waits = away && target.to === "reading";
      if (!answer || ("error" in answer && !waits)) {
        error.value = answer && "error" in answer ? answer.error.detail : "This cannot be read.";
        return false;
      }
      const mm = "error" in answer ? 0 : answer.mm;
      const believed = instead.value || target.to !== "reading" ? null : ask.value?.believed;
      const far = surprise(believed ?? null, answer, store.system);
      const back = far && `${far} Press Next again if the tape says so.`;
      if (back && doubted.value !== back) {
        doubted.value = back;
        return false;
      }
      // Tried again after a failure it is the same request.
      const mine = (key ||= freshKey());
      const typed = entry.value;
      const patch = patchFor(target, mm);
      // Cleared before the next question comes, which may have a half-typed text of its own.
      entry.value = "";
      const stored = await store.record(patch, mine, question);
      if (!stored) {
        entry.value = typed;
        // What follows from typing it has to happen before the refusal is told.
        await nextTick();
        key = mine;
        error.value = store.failed ? refusal(store.failed) : "";
        store.failed = null;
        return false;
      }
      key = "";
      store.answered(question);
      laser.value = null;
      note.value = "";
      instead.value = null;
      doubted.value = "";
      view.before = prompt;
      view.picked = "";
      view.again = null;
      view.mending = null;
      return true;
    } finally {
      busy.value = false;
    }
  }

  /** It cannot be had: it is not asked for again. */
  async function skip(why: string) {
    const target = ask.value?.target;
    if (!ask.value || !target || target.to === "field" || busy.value) return;
    busy.value = true;
    const path = `/survey/skipped/${escapePointer(ask.value.key)}`;
    entry.value = "";
    try {
      await store.change([{ op: "add", path, value: why }]);
    } finally {
      busy.value = false;
    }
  }

  /** Presses the button of the simulated laser; its reading comes back over the link. */
  async function press() {
    const target = ask.value?.target;
    if (target?.to !== "reading") return;
    try {
      const heard = await api.press(store.id, instead.value ?? target.quantity);
      error.value = heard.what === "lost" ? "The laser's message was lost: press again." : "";
    } catch (e) {
      if (!(e instanceof Refused)) throw e;
      error.value = e.problem.detail;
    }
  }

  return {
    instead,
    press,
    ask,
    parts,
    elsewhere,
    cameBack,
    open,
    entry,
    soft,
    note,
    error,
    doubted,
    busy,
    result,
    take,
    skip,
  };
}
