<script setup lang="ts">
import { computed, ref, watch } from "vue";
import type { Plan } from "@/api/types";
import { regionPath } from "@/drawing/path";

type Assembly = Plan["assembly"][number];
const props = defineProps<{ assembly: Assembly }>();
const at = ref(0);
watch(
  () => props.assembly.module,
  () => (at.value = 0),
);
const steps = computed(() => props.assembly.steps);
watch(steps, () => (at.value = Math.min(at.value, Math.max(0, steps.value.length - 1))));
const step = computed(() => steps.value[at.value]);
/** What is there at this step of what moves as one: what stands round it would hide it. */
const there = computed(() => {
  const before = steps.value.slice(0, at.value + 1).filter((s) => s.body === step.value?.body);
  const seen = new Set(before.flatMap((s) => s.boards));
  return props.assembly.drawn.filter((d) => seen.has(d.board));
});
const now = computed(() => new Set(step.value?.boards));
const W = 420;
const H = 300;
const PAD = 12;
const scale = computed(() => {
  const [low, high] = props.assembly.frame;
  const wide = Math.max(high![0]! - low![0]!, 1);
  const tall = Math.max(high![1]! - low![1]!, 1);
  return Math.min((W - 2 * PAD) / wide, (H - 2 * PAD) / tall);
});
const X = (v: number) => PAD + (v - props.assembly.frame[0]![0]!) * scale.value;
const Y = (v: number) => PAD + (props.assembly.frame[1]![1]! - v) * scale.value;
function key(e: KeyboardEvent) {
  const by = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 }[e.key];
  if (!by) return;
  e.preventDefault();
  at.value = Math.min(Math.max(at.value + by, 0), steps.value.length - 1);
}
</script>

<template>
  <section class="together">
    <h3>Put together: {{ assembly.name }}</h3>
    <div class="both">
      <ol role="listbox" aria-label="Steps" tabindex="0" @keydown="key">
        <li
          v-for="(s, i) in steps"
          :key="i"
          role="option"
          :aria-selected="i === at"
          @click="at = i"
        >
          <span>{{ s.words }}</span>
          <template v-if="i === at">
            <span v-for="h in s.holds" :key="h" class="hold">{{ h }}</span>
            <span v-for="t in s.tools" :key="t" class="hold tool">{{ t }}</span>
            <span v-if="s.persons > 1" class="hold">by two</span>
            <span v-if="s.comes_apart && s.holds.length" class="hold">comes apart again</span>
          </template>
        </li>
      </ol>
      <svg
        :viewBox="`0 0 ${W} ${H}`"
        role="img"
        :aria-label="`Step ${at + 1} of ${steps.length}, seen from the rear, right and above`"
      >
        <g v-for="d in there" :key="d.board" :class="{ now: now.has(d.board) }">
          <path v-for="(f, i) in d.faces" :key="i" :d="regionPath(f, X, Y)" fill-rule="evenodd" />
        </g>
        <template v-for="d in there" :key="d.board">
          <g v-if="now.has(d.board)" class="through">
            <path v-for="(f, i) in d.faces" :key="i" :d="regionPath(f, X, Y)" />
          </g>
          <text v-if="now.has(d.board)" :x="X(d.at[0]!)" :y="Y(d.at[1]!)">{{ d.mark }}</text>
        </template>
      </svg>
    </div>
  </section>
</template>

<style scoped>
.together {
  margin-top: 18px;
}
.both {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 420px);
  gap: 8px 22px;
  align-items: start;
}
ol {
  margin: 4px 0;
  padding: 0;
  list-style: none;
  counter-reset: step;
}
li {
  counter-increment: step;
  cursor: pointer;
  padding: 5px 10px;
  border-left: 4px solid var(--hair);
}
li::before {
  content: counter(step) ". ";
  font-weight: 600;
}
li[aria-selected="true"] {
  border-left-color: var(--ink);
  background: var(--ground);
}
.hold {
  display: block;
  padding-left: 1.4em;
  font-size: 14.5px;
}
svg {
  width: 100%;
  height: auto;
  position: sticky;
  top: 8px;
}
path {
  fill: var(--paper);
  stroke: var(--ink-2);
  stroke-width: 0.8;
}
.now path {
  fill: var(--ply);
  stroke: var(--ink);
  stroke-width: 1.4;
}
/* What comes now is seen through what stands before it. */
.through path {
  fill: none;
  stroke: var(--ink);
  stroke-dasharray: 4 3;
}
text {
  font-weight: 700;
  font-size: 14px;
  text-anchor: middle;
  dominant-baseline: middle;
  paint-order: stroke;
  stroke: var(--ply);
  stroke-width: 4px;
}
@media (max-width: 900px) {
  .both {
    grid-template-columns: minmax(0, 1fr);
  }
  svg {
    order: -1;
  }
}
</style>
