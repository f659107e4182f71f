<script setup lang="ts">
import { computed, ref, watch } from "vue";
import type { Plan } from "@/api/types";
import { useProject } from "@/store/project";
import { say } from "@/units/text";
import { linePath } from "@/drawing/path";
import { useWidth } from "@/drawing/useWidth";
import { useZoom } from "@/drawing/useZoom";
import CurveStrip from "./CurveStrip.vue";
import { useMeasure } from "./useMeasure";

/** What was read, the edge that follows, the board's edge, and the straight edge of the table. */
type Curve = Plan["templates"][number];
type Over = Plan["over"][number];
const props = defineProps<{ curve: Curve; over?: Over | undefined }>();
const store = useProject();
const box = ref<HTMLElement | null>(null);
const svg = ref<SVGSVGElement | null>(null);
const width = useWidth(box, 720);
const HIGH = 330;
/** The longest hair, pixels. */
const HAIR = 44;
const pad = computed(() => (bent.value ? HAIR + 6 : 18));
watch(
  () => props.curve.id,
  () => {
    home();
    measure.clear();
  },
);
/** The other wall, turned over, is laid under it. */
const other = ref(false);
/** Hairs over the surface tell how tightly it bends. */
const bent = ref(false);
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
  Math.min((width.value - 2 * pad.value) / reach.value.w, (HIGH - 2 * pad.value) / reach.value.h),
);
const height = computed(() => Math.min(HIGH, reach.value.h * fit.value + 2 * pad.value));
const { k, x, y, by, home, key } = useZoom(svg, () => [width.value, height.value]);
const X = (v: number) => k.value * (pad.value + (v - reach.value.x) * fit.value) + x.value;
const Y = (v: number) => k.value * (pad.value + (reach.value.y - v) * fit.value) + y.value;
const next = computed(() => {
  const n = props.curve.next;
  return n && props.curve.base.length ? n.at.value : null;
});
/** Nearer on the screen than this a place that is drawn is meant, pixels. */
const SNAP = 12;
/** The place meant by a tap: what is drawn there, if something is. */
function meant(e: MouseEvent): [number, number] {
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
  const back = (v: number, off: number) => ((v - off) / k.value - pad.value) / fit.value;
  return [back(at[0], x.value) + reach.value.x, reach.value.y - back(at[1], y.value)];
}
function tap(e: MouseEvent) {
  if (measure.on.value) void measure.tap(meant(e));
}
const hairs = computed(() =>
  (props.curve.bends?.hairs ?? []).map(({ p, to }) => {
    const at = [X(p[0]!), Y(p[1]!)] as const;
    return [at, [at[0] + HAIR * to[0]!, at[1] - HAIR * to[1]!] as const] as const;
  }),
);
/** Hairs nearer to each other than this are one grey area, pixels. */
const APART = 6;
const comb = computed(() => {
  const drawn: (readonly (readonly [number, number])[])[] = [];
  for (const hair of hairs.value) {
    const before = drawn.at(-1)?.[0];
    const [at] = hair;
    if (!before || Math.hypot(at[0] - before[0], at[1] - before[1]) >= APART) drawn.push(hair);
  }
  return drawn.map(([a, b]) => `M${a!.join(" ")}L${b!.join(" ")}`).join("");
});
const tips = computed(() =>
  hairs.value.map(([, b], i) => `${i ? "L" : "M"}${b.join(" ")}`).join(""),
);
</script>

<template>
  <div ref="box" class="curve">
    <svg
      ref="svg"
      :class="{ zoomed: k > 1 }"
      :viewBox="`0 0 ${width} ${height}`"
      :height="height"
      tabindex="0"
      role="img"
      :aria-label="`${curve.name}: ${curve.marks.length} readings and the edge through them. Plus and minus zoom, arrows move.`"
      @click="tap"
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
      <g v-if="bent && curve.bends" class="bends">
        <path :d="comb" />
        <path :d="tips" />
        <circle
          v-for="b in curve.bends.tightest"
          :key="`${b.hollow}`"
          :cx="X(b.p[0]!)"
          :cy="Y(b.p[1]!)"
          r="7"
        />
        <path
          v-for="(p, i) in curve.bends.corners"
          :key="i"
          class="corner"
          :d="`M${X(p[0]!) - 6} ${Y(p[1]!) - 6}h12v12h-12z`"
        />
      </g>
      <path class="edge" :d="linePath(curve.edge, X, Y)" />
      <path class="cut" :d="linePath(curve.cut, X, Y)" />
      <g v-for="(m, i) in curve.marks" :key="m.id" :class="{ off: m.id === curve.misfit }">
        <!-- Hundreds of points must not hide the line through them. -->
        <rect
          v-if="m.corner"
          :x="X(m.p[0]!) - 4.5"
          :y="Y(m.p[1]!) - 4.5"
          width="9"
          height="9"
          class="corner"
        />
        <circle v-else :cx="X(m.p[0]!)" :cy="Y(m.p[1]!)" :r="curve.marks.length > 80 ? 1.2 : 3.5" />
        <text v-if="curve.marks.length <= 24 || k > 2" :x="X(m.p[0]!)" :y="Y(m.p[1]!) - 8">
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
      <button v-if="k > 1" type="button" class="plain small" @click="home">all of it</button>
      <button
        type="button"
        class="plain small"
        :aria-pressed="measure.on.value"
        @click="measure.toggle"
      >
        {{ measure.on.value ? "done measuring" : "measure" }}
      </button>
      <button
        v-if="curve.bends"
        type="button"
        class="plain small"
        :aria-pressed="bent"
        @click="bent = !bent"
      >
        {{ bent ? "without its bends" : "how it bends" }}
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
    <CurveStrip
      v-if="curve.sure"
      :sure="curve.sure"
      :misfit="curve.misfit ?? undefined"
      :width="width"
      :x="X"
    />
    <p v-if="bent && curve.bends" class="small" role="status">
      {{ curve.bends.words }}
      <template v-if="curve.bends.hairs.length">
        The longer a hair, the tighter the bend; a ring marks the tightest.
      </template>
    </p>
    <p v-if="other && over" class="small" role="status">{{ over.words }}</p>
  </div>
</template>

<style scoped>
svg {
  display: block;
  /* Drawing and strip lie exactly over each other: neither is shrunk by its own frame. */
  box-sizing: content-box;
  width: calc(100% - 2px);
  /* One finger scrolls the page; two zoom, and once zoomed one moves the drawing. */
  touch-action: pan-y;
  border: 1px solid var(--hair);
  border-radius: var(--r);
  background: var(--paper);
}
svg.zoomed {
  touch-action: none;
}
path {
  fill: none;
}
.bends path {
  stroke: var(--steel);
  stroke-width: 1;
}
.bends circle,
.bends .corner {
  fill: none;
  stroke: var(--steel);
  stroke-width: 2;
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
circle,
rect.corner {
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
  /* Readable over hairs and lines. */
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 3px;
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
