<script setup lang="ts">
import { computed } from "vue";
import type { Ask, Mark } from "@/api/types";
import DrawingFrame from "@/drawing/DrawingFrame.vue";
import { linePath, regionPath, type Map1 } from "@/drawing/path";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";

/** The bay in plan, rear threshold at the left, every reading where it was taken. */
const props = defineProps<{
  z: number;
  ask?: Ask | null;
  compact?: boolean;
  side?: "both" | "left" | "right" | "compare";
}>();
const store = useProject();
const view = useView();

const survey = computed(() => store.shown!.survey);
const bay = computed(
  () => survey.value.bays.find((b) => b.z.value === props.z) ?? survey.value.bays[0],
);
const marks = computed(() =>
  survey.value.marks.filter(
    (m) =>
      m.place?.view === "plan" &&
      Math.abs(m.z - props.z) < 1 &&
      (m.quantity.of === "wall" ||
        m.quantity.of === "thing" ||
        (m.quantity.of === "length" && m.quantity.y !== 0)) &&
      shownSide(m),
  ),
);
function shownSide(m: Mark): boolean {
  if (props.side !== "left" && props.side !== "right") return true;
  return Math.sign(m.place?.to[1] ?? 0) === (props.side === "left" ? 1 : -1);
}
const bounds = computed<[number, number, number, number]>(() => {
  const length = survey.value.length?.value ?? 2000;
  let half = 500;
  for (const p of bay.value?.region.outer ?? []) half = Math.max(half, Math.abs(p[1]!));
  for (const m of survey.value.marks)
    if (m.place?.view === "plan") half = Math.max(half, Math.abs(m.place.to[1]!));
  return [0, -half, length, half];
});
const askPlace = computed(() => (props.ask?.place?.view === "plan" ? props.ask.place : null));
/** Where a wall may be: two standard deviations either way, drawn eight times as wide. */
const WIDE = 8;

function bandPath(wall: number[][], X: Map1, Y: Map1): string {
  const at = (by: number) => wall.map((p) => [p[0]!, p[1]! + by * 2 * WIDE * p[2]!]);
  return `${linePath([...at(1), ...at(-1).reverse()], X, Y)}Z`;
}
const mirrored = computed(() =>
  props.side === "compare" ? (bay.value?.walls[1] ?? []).map((p) => [p[0]!, -p[1]!]) : [],
);
function label(mark: Mark): string {
  const figure = say(mark.figure, store.system);
  if (mark.state === "ok" || mark.state === "soft") return figure;
  // What counts is what all the others say; what was read stands beside it.
  const counts = mark.state === "disagrees" ? say(mark.adjusted, store.system) : "";
  return counts && counts !== figure ? `${counts}, not ${figure}?` : `${figure}?`;
}
/** Widths of wells are told beside the well, lengths would run over each other. */
function labelled(mark: Mark): boolean {
  const q = mark.quantity;
  if (q.of === "wall") return true;
  if (q.of !== "thing") return false;
  const faced = survey.value.marks.some(
    (m) => m.quantity.of === "thing" && m.quantity.id === q.id && m.quantity.dim === "face",
  );
  return q.dim === "face" || (q.dim === "width" && !faced);
}
</script>

<template>
  <DrawingFrame
    v-slot="{ X, Y, s }"
    :bounds="bounds"
    label="Plan of the bay with the readings"
    :max-height="compact ? 236 : 420"
    :pad="compact ? 22 : 34"
  >
    <template v-if="bay">
      <path v-for="(w, i) in bay.walls" :key="i" :d="bandPath(w, X, Y)" class="band" />
      <path :d="regionPath(bay.region, X, Y)" class="bay" />
    </template>
    <template v-if="mirrored.length">
      <path :d="linePath(mirrored, X, Y)" class="mirrored" />
      <text
        v-if="bay?.differ"
        :x="(X(0) + X(bounds[2])) / 2"
        :y="Y(bounds[3]) - 8"
        text-anchor="middle"
        class="figure"
      >
        left and right differ by up to {{ say(bay.differ, store.system, true) }}
      </text>
    </template>
    <line :x1="X(0)" :x2="X(0)" :y1="Y(bounds[1])" :y2="Y(bounds[3])" class="threshold" />
    <text
      :transform="`translate(${X(0) - 10} ${Y(0)}) rotate(-90)`"
      text-anchor="middle"
      class="soft"
    >
      rear threshold
    </text>
    <g v-for="d in survey.doors" :key="d.id">
      <path :d="linePath(d.line, X, Y)" class="door" />
      <text
        v-if="!compact"
        :x="(X(d.line[0]![0]!) + X(d.line[1]![0]!)) / 2"
        :y="Y(d.line[0]![1]!) + (d.line[0]![1]! > 0 ? 16 : -8)"
        text-anchor="middle"
        class="soft inside"
      >
        {{ d.name }}
      </text>
    </g>
    <g v-for="t in survey.things" :key="t.id">
      <path
        v-if="t.z[1]! > z"
        :d="regionPath(t.plan, X, Y)"
        class="thing"
        :class="{ marked: view.marked.includes(t.id) }"
      />
      <text
        v-if="t.z[1]! > z && !compact"
        :x="(X(t.x[0]!) + X(t.x[1]!)) / 2"
        :y="(Y(t.plan.outer[0]![1]!) + Y(t.plan.outer[2]![1]!)) / 2 + 5"
        text-anchor="middle"
        class="soft inside"
      >
        {{ t.name }}, {{ say(t.height, store.system) }} high
      </text>
    </g>
    <line :x1="X(0)" :x2="X(bounds[2]) + 10" :y1="Y(0)" :y2="Y(0)" class="centre" />
    <g
      v-for="m in marks"
      :key="m.key"
      class="mark"
      :class="[m.state, { marked: view.marked === m.key || view.again?.key === m.key }]"
    >
      <template v-if="m.place">
        <line
          :x1="X(m.place.from[0]!)"
          :y1="Y(m.place.from[1]!)"
          :x2="X(m.place.to[0]!)"
          :y2="Y(m.place.to[1]!)"
        />
        <circle :cx="X(m.place.to[0]!)" :cy="Y(m.place.to[1]!)" r="4.5" />
        <text
          v-if="!compact && (m.state === 'disagrees' || m.state === 'again') && m.residual != null"
          :x="X(m.place.to[0]!) + 8"
          :y="Y(m.place.to[1]!) + (m.place.to[1]! > 0 ? -8 : 18)"
          class="residual"
        >
          off by {{ Math.abs(m.residual).toFixed(1) }} mm
        </text>
        <template v-if="!compact && labelled(m)">
          <g
            v-if="m.quantity.of === 'wall'"
            :transform="`translate(${m.place.to[0]! > bounds[2] - 5 ? X(m.place.to[0]!) - 52 : X(m.place.to[0]!) + 5} ${Y(m.place.to[1]! * 0.62)})`"
          >
            <rect x="-2" y="-12" :width="label(m).length * 8.6 + 4" height="17" />
            <text class="figure">{{ label(m) }}</text>
          </g>
          <g
            v-else
            :transform="`translate(${X(m.place.to[0]!) + 6} ${Y(m.place.to[1]!) + (m.place.to[1]! > 0 ? 16 : -8)})`"
          >
            <text class="figure">{{ label(m) }}</text>
          </g>
        </template>
      </template>
    </g>
    <g v-if="askPlace" class="ask tape-line">
      <line
        :x1="X(askPlace.from[0]!)"
        :y1="Y(askPlace.from[1]!)"
        :x2="X(askPlace.to[0]!)"
        :y2="Y(askPlace.to[1]!)"
      />
      <circle :cx="X(askPlace.from[0]!)" :cy="Y(askPlace.from[1]!)" r="5" />
      <circle :cx="X(askPlace.to[0]!)" :cy="Y(askPlace.to[1]!)" r="6" class="end" />
    </g>
    <g v-if="!compact" :transform="`translate(${X(0)} ${Y(bounds[1]) + 22})`">
      <path :d="`M0 -4v8M0 0h${500 * s}M${500 * s} -4v8`" class="scale" />
      <text :x="500 * s + 8" y="5" class="soft">
        {{ store.system === "in" ? "19 11/16″" : "500 mm" }} · forward is to the right, left is up
        <template v-if="bay"> · band: doubt (2 sd, × 8)</template>
      </text>
    </g>
  </DrawingFrame>
</template>

<style scoped>
.bay {
  fill: var(--paper);
  fill-opacity: 0;
  stroke: var(--ink);
  stroke-width: 2.2;
}
.band {
  fill: var(--hair);
  fill-opacity: 0.75;
}
.mirrored {
  fill: none;
  stroke: var(--look);
  stroke-width: 2;
  stroke-dasharray: 7 5;
}
.residual {
  fill: var(--stop);
  font-weight: 700;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
}
.mark.again line,
.mark.again circle {
  stroke: var(--look);
  stroke-width: 2;
}
.centre {
  stroke: var(--stop);
  stroke-width: 1;
  stroke-dasharray: 12 4 3 4;
}
.door {
  fill: none;
  stroke: var(--steel);
  stroke-width: 5;
}
.thing {
  fill: var(--void);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.thing.marked {
  stroke: var(--stop);
  stroke-width: 3;
}
.soft {
  fill: var(--ink-2);
  font-size: 13px;
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
  stroke-linejoin: round;
}
.soft.inside {
  stroke: var(--void);
}
.mark line {
  stroke: var(--steel);
  stroke-width: 1.2;
}
.mark circle {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.mark rect {
  fill: var(--paper);
}
.mark.disagrees line,
.mark.disagrees circle {
  stroke: var(--stop);
  stroke-width: 2.2;
}
.mark.disagrees circle {
  fill: var(--stop);
}
.mark.disagrees text {
  fill: var(--stop);
}
.mark.soft line {
  stroke-dasharray: 4 3;
}
.mark.marked circle {
  stroke-width: 4;
}
.ask circle {
  fill: var(--ink);
}
.ask .end {
  fill: var(--stop);
}
.scale {
  stroke: var(--ink);
  fill: none;
}
</style>
