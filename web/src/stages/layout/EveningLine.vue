<script setup lang="ts">
import { computed, ref, watch } from "vue";
import type { Scene } from "@/api/types";
import PlainField from "@/fields/PlainField.vue";
import { useWidth } from "@/drawing/useWidth";
import { useProject } from "@/store/project";
import { escapePointer } from "@/units/text";

/** Drive, day and night on one line, each step a bead that can be dragged to; the piece that is picked is set below. */
const props = defineProps<{ picked: string }>();
const emit = defineEmits<{ scene: [Scene | null] }>();
const store = useProject();
const box = ref<HTMLElement | null>(null);
const width = useWidth(box, 740);

const evening = computed(() => store.shown!.evening);
/** Everything one can stop at, in order: a state, the steps to the next, that state... */
const stops = computed(() =>
  evening.value.states.flatMap((s, i) => [
    {
      key: s.id,
      state: true,
      label: s.name,
      words: s.name,
      meets: "",
      scene: s.scene,
    },
    ...(evening.value.moves[i]?.steps ?? []).map((step, k) => ({
      key: `${s.id}-${k}`,
      state: false,
      // What it meets is said above once the bead is reached, and among the findings: here words would run into each other.
      label: step.meets ? "stop" : `${step.seconds} s`,
      words: `${step.words}${step.meets ? `, but it meets ${step.meets}` : ""}; ${step.seconds} s${step.persons > 1 ? `, ${step.persons} people` : ""}`,
      meets: step.meets ?? "",
      scene: step.scene,
    })),
  ]),
);
const now = ref(0);
const at = computed(() => Math.min(now.value, stops.value.length - 1));
watch(
  [at, stops],
  () =>
    emit("scene", at.value === 0 ? (stops.value[0]?.scene ?? null) : stops.value[at.value]!.scene),
  { immediate: true },
);

const PAD = 44;
const LINE = 22;
const X = (i: number) => PAD + (i * (width.value - 2 * PAD)) / Math.max(stops.value.length - 1, 1);
const held = ref(false);
function drag(e: PointerEvent) {
  if (e.type === "pointerdown") {
    held.value = true;
    (e.currentTarget as Element).setPointerCapture?.(e.pointerId);
  }
  if (!held.value || !box.value) return;
  const left = box.value.getBoundingClientRect().left;
  const share = (e.clientX - left - PAD) / Math.max(width.value - 2 * PAD, 1);
  const last = stops.value.length - 1;
  now.value = Math.min(last, Math.max(0, Math.round(share * last)));
}
function key(e: KeyboardEvent) {
  const last = stops.value.length - 1;
  const to: Record<string, number> = {
    ArrowRight: at.value + 1,
    ArrowUp: at.value + 1,
    ArrowLeft: at.value - 1,
    ArrowDown: at.value - 1,
    Home: 0,
    End: last,
  };
  if (!(e.key in to)) return;
  e.preventDefault();
  now.value = Math.min(last, Math.max(0, to[e.key]!));
}

/** What moves of the piece that is picked, state by state. */
const own = computed(() => {
  const first = evening.value.states[0]?.bodies.filter((b) => b.module === props.picked) ?? [];
  return first.map((b) => ({
    id: b.id,
    name: b.name,
    states: evening.value.states.map((s) => {
      const here = s.bodies.find((o) => o.id === b.id)!;
      const { open, usual, words, ends } = here;
      return { state: s.id, name: s.name, open, usual, words, ends };
    }),
  }));
});
/** States of one's own: a name, and its place after the last. */
async function addState() {
  const known = Object.entries(store.project?.states ?? {});
  const ids = known.map(([id]) => id);
  let n = 1;
  while (ids.includes(`state-${n}`)) n += 1;
  const order = Math.max(0, ...known.map(([, s]) => s.order ?? 0)) + 1;
  await store.change([
    { op: "add", path: `/states/state-${n}`, value: { name: "another", order, open: {} } },
  ]);
}
async function removeState(id: string) {
  await store.change([{ op: "remove", path: `/states/${escapePointer(id)}` }]);
}
async function set(state: string, body: string, open: number) {
  await store.change([
    { op: "add", path: `/states/${escapePointer(state)}/open/${escapePointer(body)}`, value: open },
  ]);
}
</script>

<template>
  <section
    v-if="evening.states[0]?.bodies.length"
    ref="box"
    class="evening"
    aria-label="The evening"
  >
    <h3>
      The evening
      <span class="soft mono">{{ stops[at]?.words }}</span>
      <slot />
    </h3>
    <svg
      :width="width"
      height="58"
      :viewBox="`0 0 ${width} 58`"
      role="slider"
      tabindex="0"
      aria-label="Where the evening is"
      :aria-valuemin="0"
      :aria-valuemax="stops.length - 1"
      :aria-valuenow="at"
      :aria-valuetext="stops[at]?.words"
      @pointerdown="drag"
      @pointermove="drag"
      @pointerup="held = false"
      @pointercancel="held = false"
      @keydown="key"
    >
      <line :x1="X(0)" :x2="X(stops.length - 1)" :y1="LINE" :y2="LINE" class="batten" />
      <g v-for="(s, i) in stops" :key="s.key" :class="{ here: i === at }">
        <template v-if="s.state">
          <rect :x="X(i) - 36" :y="LINE - 14" width="72" height="28" class="stop" />
          <text :x="X(i)" :y="LINE + 5" class="name">{{ s.label }}</text>
        </template>
        <template v-else>
          <circle :cx="X(i)" :cy="LINE" r="9" class="bead" :class="{ red: s.meets }" />
          <text
            v-if="width > 560 && stops.length < 9"
            :x="X(i)"
            :y="LINE + 31"
            class="note"
            :class="{ red: s.meets }"
          >
            {{ s.label }}
          </text>
        </template>
      </g>
    </svg>
    <div v-for="body in own" :key="body.id" class="row body">
      <span class="soft">{{ body.name }}</span>
      <label v-for="s in body.states" :key="s.state">
        {{ s.name }}
        <select
          :aria-label="`${body.name}, ${s.name}`"
          :value="s.open === 0 ? 'shut' : 'open'"
          @change="
            set(
              s.state,
              body.id,
              ($event.target as HTMLSelectElement).value === 'open' ? s.usual : 0,
            )
          "
        >
          <option value="shut">{{ s.ends[0] }}</option>
          <option value="open">{{ s.open > 0 ? s.words : s.ends[1] }}</option>
        </select>
      </label>
    </div>
    <details class="names">
      <summary>States</summary>
      <div class="row">
        <span v-for="(s, i) in evening.states" :key="s.id" class="row state">
          <PlainField
            :label="`Name of state ${i + 1}`"
            hide-label
            kind="text"
            :pointer="`/states/${escapePointer(s.id)}/name`"
            :value="s.name"
          />
          <el-button
            v-if="i > 0 && evening.states.length > 1"
            :aria-label="`Remove the state ${s.name}`"
            @click="removeState(s.id)"
            >Remove</el-button
          >
        </span>
        <el-button v-if="evening.states.length < 8" @click="addState">Add one</el-button>
      </div>
    </details>
  </section>
</template>

<style scoped>
.evening {
  margin: 4px 0 10px;
}
h3 {
  margin: 0 0 4px;
}
h3 .soft {
  font-weight: 400;
  margin-left: 10px;
  font-size: 14px;
}
svg {
  display: block;
  /* Room for the ring round it while it has the keys. */
  margin-bottom: 6px;
  touch-action: none;
  cursor: pointer;
  font-family: var(--font);
  font-size: 14px;
  fill: var(--ink);
}
.batten {
  stroke: var(--ply-edge);
  stroke-width: 3;
}
.stop {
  fill: var(--paper);
  stroke: var(--ply-edge);
  stroke-width: 1.5;
}
.name {
  text-anchor: middle;
  font-weight: 700;
}
.bead {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2;
}
.here .stop {
  fill: var(--ink);
  stroke: var(--ink);
}
.here .name {
  fill: var(--on-ink);
}
.here .bead {
  fill: var(--ink);
}
.bead.red {
  fill: var(--stop);
  stroke: var(--stop);
}
.here .bead.red {
  stroke: var(--ink);
  stroke-width: 3;
}
.note {
  text-anchor: middle;
  font-family: var(--mono);
  font-size: 13px;
  fill: var(--ink-2);
}
.note.red {
  fill: var(--stop);
}
.body {
  gap: 16px;
  font-size: 14.5px;
}
.names {
  margin-top: 6px;
  font-size: 14.5px;
}
.state {
  gap: 4px;
}
select {
  font: inherit;
  color: var(--ink);
  background: var(--paper);
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
  min-height: 34px;
  padding: 2px 6px;
}
@media (pointer: coarse) {
  select {
    min-height: 44px;
  }
}
</style>
