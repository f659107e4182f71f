import { computed, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { api, Refused, refusal } from "@/api/client";
import type { Ask, Operation, Quantity } from "@/api/types";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { escapePointer, freshId } from "@/units/text";
import { useTape } from "@/units/useTape";

/** The number asked for now, what is typed for it, and taking it. */
export function useAsk() {
  const store = useProject();
  const view = useView();
  const route = useRoute();
  const draft = `jigfit.entry.${store.id}`;
  // What was being typed when the phone went to sleep is still there when it wakes.
  const entry = ref(localStorage.getItem(draft) ?? "");
  const soft = ref(false);
  const note = ref("");
  const error = ref("");
  const instead = ref<Quantity | null>(null);
  const laser = ref("");
  const { result, read } = useTape(entry);

  const open = computed(() => store.plan?.asks ?? []);
  const ask = computed<Ask | null>(() => {
    const mark = view.again;
    if (mark)
      return {
        stage: "survey",
        key: mark.key,
        prompt: `${mark.what}, again`,
        how: "Measure it once more. Both readings are kept.",
        why: "A second reading finds a slip, and makes the first one surer.",
        expected: {
          figure: mark.figure,
          plus_minus: store.plan?.survey.noise ?? mark.spread,
        },
        target: { to: "reading", quantity: mark.quantity, may_be_soft: true },
        place: mark.place,
        needed: false,
        again: true,
        minutes: 0.5,
      };
    const here = open.value.filter((a) => a.stage === route.name);
    return (
      here.find((a) => a.key === view.picked) ??
      here.find((a) => a.needed) ??
      (route.name === "survey" ? here[0] : undefined) ??
      open.value.find((a) => a.needed) ??
      null
    );
  });
  watch(
    () => ask.value?.key,
    () => {
      soft.value = false;
      error.value = "";
      instead.value = null;
    },
  );
  watch(entry, () => {
    error.value = "";
    if (entry.value) localStorage.setItem(draft, entry.value);
    else localStorage.removeItem(draft);
  });
  watch(
    () => store.shot,
    (shot) => {
      if (!shot || shot.project !== store.id) return;
      entry.value = `${shot.mm} mm`;
      laser.value = entry.value;
    },
  );

  function patchFor(target: Ask["target"], mm: number): Operation[] {
    if (target.to === "ridge")
      return [{ op: "add", path: `/survey/stations/${target.id}`, value: { x: mm, ridge: true } }];
    if (target.to === "field") return [{ op: "add", path: target.pointer, value: mm }];
    return [
      {
        op: "add",
        path: `/survey/readings/${freshId("r")}`,
        value: {
          quantity: instead.value ?? (target.quantity as Quantity),
          typed: entry.value.trim(),
          unit: store.project?.units?.tape ?? "mm",
          when: new Date().toISOString(),
          soft: soft.value,
          instrument: laser.value && laser.value === entry.value ? "laser" : "tape",
          note: note.value.trim(),
        },
      },
    ];
  }

  /** Takes what is typed; true if it was stored. */
  async function take(): Promise<boolean> {
    const target = ask.value?.target;
    if (!target || !entry.value.trim()) {
      error.value = "Type what the tape says.";
      return false;
    }
    const answer = await read();
    if (!answer || "error" in answer) {
      error.value = answer?.error.detail ?? "This cannot be read.";
      return false;
    }
    const stored = await store.change(patchFor(target, answer.mm));
    if (!stored) {
      error.value = store.failed ? refusal(store.failed) : "";
      store.failed = null;
      return false;
    }
    entry.value = "";
    laser.value = "";
    note.value = "";
    instead.value = null;
    view.picked = "";
    view.again = null;
    return true;
  }

  /** It cannot be had: it is not asked for again. */
  async function skip(why: string) {
    const target = ask.value?.target;
    if (!ask.value || !target || target.to === "field") return;
    await store.change([
      { op: "add", path: `/survey/skipped/${escapePointer(ask.value.key)}`, value: why },
    ]);
    entry.value = "";
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

  return { instead, press, ask, open, entry, soft, note, error, result, take, skip };
}
