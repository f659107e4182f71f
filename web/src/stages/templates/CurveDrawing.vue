<script setup lang="ts">
import { computed, ref, watch } from "vue";
import type { Plan } from "@/api/types";
import { useProject } from "@/store/project";
import { say } from "@/units/text";
import { linePath } from "@/drawing/path";
import { useWidth } from "@/drawing/useWidth";
import { useMeasure } from "./useMeasure";

/** What was read, the edge that follows, the board's edge, and the straight edge of the table. */
type Curve = Plan["templates"][number];
type Over = Plan["over"][number];
const props = defineProps<{ curve: Curve; over?: Over | undefined }>();
const store = useProject();
const box = ref<HTMLElement | null>(null);
const width = useWidth(box, 720);
const HIGH = 330;
const PAD = 18;
/** Zoom about the middle of what is seen, and where that lies. */
const zoom = ref(1);
const shift = ref<[number, number]>([0, 0]);
watch(
  () => props.curve.id,
  () => {
    home();
    measure.clear();
  },
);
function home() {
  zoom.value = 1;
  shift.value = [0, 0];
}
/** The other wall, turned over, is laid under it. */
const other = ref(false);
const measure = useMeasure();
const reach = computed(() => {
  const all = [
    ...props.curve.edge,
    ...props.curve.base,
    ...(props.curve.table?.edge ?? []),
    ...props.curve.marks.map((m) => m.p),
    ...(other.value ? (props.over?.line ?? []) : []),
  ];
  const xs = all.map((p) => p[0]!);
  const ys = all.map((p) => p[1]!);
  return {
    x: Math.min(...xs, 0),
    y: Math.max(...ys, 1),
    w: Math.max(Math.max(...xs, 1) - Math.min(...xs, 0), 1),
    h: Math.max(Math.max(...ys, 1) - Math.min(...ys, 0), 1),
  };
});
const fit = computed(() =>
  Math.min((width.value - 2 * PAD) / reach.value.w, (HIGH - 2 * PAD) / reach.value.h),
);
const height = computed(() => Math.min(HIGH, reach.value.h * fit.value + 2 * PAD));
const middle = computed(() => [width.value / 2, height.value / 2] as const);
const zoomed = (v: number, i: 0 | 1) =>
  (v - middle.value[i]) * zoom.value + middle.value[i] + shift.value[i];
const X = (x: number) => zoomed(PAD + (x - reach.value.x) * fit.value, 0);
const Y = (y: number) => zoomed(PAD + (reach.value.y - y) * fit.value, 1);
const next = computed(() => {
  const n = props.curve.next;
  return n && props.curve.base.length ? n.at.value : null;
});
function by(factor: number) {
  zoom.value = Math.min(Math.max(zoom.value * factor, 1), 40);
  if (zoom.value === 1) shift.value = [0, 0];
}
function wheel(e: WheelEvent) {
  e.preventDefault();
  by(e.deltaY < 0 ? 1.25 : 0.8);
}
let held: [number, number] | null = null;
/** Nearer on the screen than this a place that is drawn is meant, pixels. */
const SNAP = 12;
/** The place meant by a tap: what is drawn there, if something is. */
function meant(e: PointerEvent): [number, number] {
  // The drawing may be shown a little smaller or larger than it was drawn.
  const shown = (e.currentTarget as SVGSVGElement).getScreenCTM();
  const tap = new DOMPoint(e.clientX, e.clientY).matrixTransform(shown?.inverse());
  const at = [tap.x, tap.y] as const;
  const drawn = [
    ...props.curve.marks.map((m) => m.p),
    ...props.curve.cut,
    ...props.curve.edge,
    ...(other.value ? (props.over?.line ?? []) : []),
  ];
  const off = (p: number[]) => Math.hypot(X(p[0]!) - at[0], Y(p[1]!) - at[1]);
  const near = drawn.filter((p) => off(p) < SNAP).sort((a, b) => off(a) - off(b))[0];
  if (near) return [near[0]!, near[1]!];
  const back = (v: number, i: 0 | 1) =>
    (v - shift.value[i] - middle.value[i]) / zoom.value + middle.value[i] - PAD;
  return [back(at[0], 0) / fit.value + reach.value.x, reach.value.y - back(at[1], 1) / fit.value];
}
function down(e: PointerEvent) {
  if (measure.on.value) {
    void measure.tap(meant(e));
    return;
  }
  held = [e.clientX, e.clientY];
  (e.currentTarget as Element).setPointerCapture?.(e.pointerId);
}
function move(e: PointerEvent) {
  if (!held || zoom.value === 1) return;
  shift.value = [shift.value[0] + e.clientX - held[0], shift.value[1] + e.clientY - held[1]];
  held = [e.clientX, e.clientY];
}
function key(e: KeyboardEvent) {
  const step: Record<string, [number, number]> = {
    ArrowLeft: [40, 0],
    ArrowRight: [-40, 0],
    ArrowUp: [0, 40],
    ArrowDown: [0, -40],
  };
  if (e.key === "+" || e.key === "=") by(1.25);
  else if (e.key === "-") by(0.8);
  else if (e.key === "0") home();
  else if (step[e.key] && zoom.value > 1)
    shift.value = [shift.value[0] + step[e.key]![0], shift.value[1] + step[e.key]![1]];
  else return;
  e.preventDefault();
  // Digits and arrows have another meaning on the rest of the page.
  e.stopPropagation();
}
</script>

<template>
  <div ref="box" class="curve">
    <svg
      :viewBox="`0 0 ${width} ${height}`"
      :height="height"
      tabindex="0"
      role="img"
      :aria-label="`${curve.name}: ${curve.marks.length} readings and the edge through them. Plus and minus zoom, arrows move.`"
      @wheel="wheel"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="held = null"
      @keydown="key"
    >
      <path class="base" :d="linePath(curve.base, X, Y)" />
      <path v-if="curve.table" class="straight" :d="linePath(curve.table.edge, X, Y)" />
      <template v-if="other && over">
        <path class="other" :d="linePath(over.line, X, Y)" />
        <path class="worst" :d="linePath(over.worst, X, Y)" />
        <circle
          v-for="(p, i) in over.worst"
          :key="i"
          class="worst"
          :cx="X(p[0]!)"
          :cy="Y(p[1]!)"
          r="6"
        />
      </template>
      <path class="edge" :d="linePath(curve.edge, X, Y)" />
      <path class="cut" :d="linePath(curve.cut, X, Y)" />
      <g v-for="(m, i) in curve.marks" :key="m.id" :class="{ off: m.id === curve.misfit }">
        <!-- Hundreds of points must not hide the line through them. -->
        <circle :cx="X(m.p[0]!)" :cy="Y(m.p[1]!)" :r="curve.marks.length > 80 ? 1.2 : 3.5" />
        <text v-if="curve.marks.length <= 24 || zoom > 2" :x="X(m.p[0]!)" :y="Y(m.p[1]!) - 8">
          {{ i + 1 }}
        </text>
      </g>
      <g v-if="measure.points.value.length" class="measured">
        <path :d="linePath(measure.points.value, X, Y)" />
        <circle
          v-for="(p, i) in measure.points.value"
          :key="i"
          :cx="X(p[0]!)"
          :cy="Y(p[1]!)"
          r="4"
        />
      </g>
      <g v-if="next !== null" class="next">
        <path :d="`M${X(next)} ${Y(0) - 9}l6 -11h-12z`" />
      </g>
    </svg>
    <p class="row small soft">
      <span><i class="key surface" /> the surface</span>
      <span><i class="key board" /> the board's edge</span>
      <span v-if="next !== null" class="next">
        <i class="here" aria-hidden="true" /> read next
      </span>
      <span v-if="other"
        ><i class="key turned" /> the other wall, where they differ most marked</span
      >
      <button type="button" class="plain small" @click="by(1.25)">closer</button>
      <button type="button" class="plain small" @click="by(0.8)">further</button>
      <button v-if="zoom > 1" type="button" class="plain small" @click="home">all of it</button>
      <button
        type="button"
        class="plain small"
        :aria-pressed="measure.on.value"
        @click="measure.toggle"
      >
        {{ measure.on.value ? "done measuring" : "measure" }}
      </button>
      <button
        v-if="over"
        type="button"
        class="plain small"
        :aria-pressed="other"
        @click="other = !other"
      >
        {{ other ? "without the other wall" : "the other wall over it" }}
      </button>
    </p>
    <p v-if="measure.on.value" class="small" role="status">
      <template v-if="measure.found.value">
        {{ say(measure.found.value.distance, store.system, true) }} apart:
        {{ say(measure.found.value.right, store.system, true) }} to the right,
        {{ say(measure.found.value.up, store.system, true) }} up.
      </template>
      <template v-else>Tap two places of the drawing.</template>
    </p>
    <p v-if="other && over" class="small" role="status">{{ over.words }}</p>
  </div>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  touch-action: pan-y;
  border: 1px solid var(--hair);
  border-radius: var(--r);
  background: var(--paper);
}
path {
  fill: none;
}
.other {
  fill: none;
  stroke: var(--look);
  stroke-width: 2;
  stroke-dasharray: 7 5;
}
.worst {
  fill: none;
  stroke: var(--stop);
  stroke-width: 2;
}
.measured path {
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 2 3;
}
.measured circle {
  fill: var(--ink);
}
.base {
  stroke: var(--steel);
  stroke-width: 3;
}
.straight {
  stroke: var(--ink);
  stroke-width: 0.8;
  stroke-dasharray: 6 4;
}
.edge {
  stroke: var(--ink-2);
  stroke-width: 1.2;
}
.cut {
  stroke: var(--ply-edge);
  stroke-width: 2.6;
}
circle {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.4;
}
/* Never by colour alone. */
.off circle {
  stroke: var(--stop);
  stroke-width: 3;
}
.off text {
  fill: var(--stop);
  font-weight: 700;
  text-decoration: underline;
}
text {
  font-size: 12px;
  font-family: var(--mono);
  text-anchor: middle;
  fill: var(--ink);
}
.next path {
  fill: var(--tape);
  stroke: var(--ink);
}
.here {
  display: inline-block;
  border: 6px solid transparent;
  border-top: 11px solid var(--ink);
  border-bottom: 0;
}
.small {
  font-size: 14px;
  gap: 14px;
}
.plain.small {
  text-decoration: underline;
}
.key {
  display: inline-block;
  width: 22px;
  height: 0;
  vertical-align: middle;
  border-top: 2px solid var(--ink-2);
}
.key.board {
  border-top: 3px solid var(--ply-edge);
}
.key.turned {
  border-top: 2px dashed var(--look);
}
</style>
