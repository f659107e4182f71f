<script setup lang="ts">
import { computed } from "vue";
import type { Part } from "@/api/types";
import DimLine from "@/drawing/DimLine.vue";
import DrawingFrame from "@/drawing/DrawingFrame.vue";
import { linePath, regionPath } from "@/drawing/path";
import { useProject } from "@/store/project";
import { say } from "@/units/text";

/** One part as it is marked on the board: good face up, everything from the lower left corner. */
const props = defineProps<{ part: Part }>();
const store = useProject();
const bounds = computed<[number, number, number, number]>(() => [
  0,
  0,
  props.part.w.value,
  props.part.h.value,
]);

/** A frame with windows has no room for its name; a hand slot leaves it some. */
const windows = computed(() =>
  props.part.features.some(
    (f) => f.kind === "window" && (f.size?.[0]?.value ?? 0) > props.part.w.value / 4,
  ),
);

type Side = "top" | "bottom" | "left" | "right";
/** Overall lines lie outermost, the others close to the edge they measure. */
function place(
  d: Part["dims"][number],
  i: number,
  X: (v: number) => number,
  Y: (v: number) => number,
) {
  const away = i < 2 ? 46 : 20;
  const [w, h] = [props.part.w.value, props.part.h.value];
  const at: Record<Side, [number, number, number, number]> = {
    bottom: [X(d.from[0]!), Y(0) + away, X(d.to[0]!), Y(0) + away],
    top: [X(d.from[0]!), Y(h) - away, X(d.to[0]!), Y(h) - away],
    left: [X(0) - away, Y(d.from[1]!), X(0) - away, Y(d.to[1]!)],
    right: [X(w) + away, Y(d.from[1]!), X(w) + away, Y(d.to[1]!)],
  };
  const [x1, y1, x2, y2] = at[d.side as Side];
  return { x1, y1, x2, y2 };
}
/** Two corners so near that their letters would cover each other. */
function crowded(i: number, s: number): boolean {
  const [a, b] = [props.part.corners[i - 1], props.part.corners[i]];
  if (!a || !b) return false;
  return Math.hypot(a.u.value - b.u.value, a.v.value - b.v.value) * s < 14;
}
function roomy(d: Part["dims"][number], i: number, s: number): boolean {
  return i < 2 || d.figure.value * s > say(d.figure, store.system).length * 9 + 24;
}
/** A hand slot lies near the upper edge, or in plan near the lower one: the mark stands in the other half. */
const slot = computed(() => props.part.features.find((f) => f.kind === "window"));
/** Where the mark and the grain's arrow stand: a third from the top, and in the middle of a narrow board. */
function middle(Y: (v: number) => number, s: number): number {
  const high = props.part.h.value;
  if (slot.value && slot.value.at[1]! > high / 2) return Y(high * 0.3);
  return high * s < 140 ? Y(high / 2) + 4 : Y(high * 0.66);
}
/** Where screws go: a small cross each. */
function crosses(at: number[][], X: (v: number) => number, Y: (v: number) => number): string {
  return at.map((p) => `M${X(p[0]!) - 4} ${Y(p[1]!)}h8m-4 -4v8`).join("");
}
type Bevel = NonNullable<Part["bevels"]>[number];
/** What is written at an edge: along the board within it; beside an upright one, where there is little room, only how far. */
function tilt(b: Bevel, X: (v: number) => number, Y: (v: number) => number) {
  const i = Math.floor((b.along.length - 1) / 2);
  const [p, q] = [b.along[i] ?? [0, 0], b.along[i + 1] ?? b.along[i] ?? [0, 0]];
  const [u, v] = [(p[0]! + q[0]!) / 2, (p[1]! + q[1]!) / 2];
  const steep = Math.abs(Y(q[1]!) - Y(p[1]!)) > Math.abs(X(q[0]!) - X(p[0]!));
  const right = u > props.part.w.value / 2;
  const [x, y] = [X(u), Y(v)];
  return steep
    ? { x: x + (right ? 8 : -8), y: y + 4, anchor: right ? "start" : "end", words: `${b.deg}°` }
    : {
        x,
        y: y + (v > props.part.h.value / 2 ? 18 : -9),
        anchor: "middle",
        words: `${b.deg}°, ${b.larger} face larger`,
      };
}
</script>

<template>
  <DrawingFrame
    v-slot="{ X, Y, s }"
    :bounds="bounds"
    :label="`${part.mark}, ${part.name}, to be marked on the board`"
    :max-height="370"
    :pad="78"
  >
    <path :d="regionPath(part.outline, X, Y)" class="board" fill-rule="evenodd" />
    <template v-for="(d, i) in part.dims" :key="i">
      <DimLine
        v-if="roomy(d, i, s)"
        v-bind="place(d, i, X, Y)"
        :words="say(d.figure, store.system)"
      />
    </template>
    <g v-for="(f, i) in part.features" :key="`f${i}`">
      <path
        v-if="f.kind === 'relief'"
        :d="`M${X(f.at[0]!) - 6} ${Y(f.at[1]!)}h12M${X(f.at[0]!)} ${Y(f.at[1]!) - 6}v12`"
        class="relief"
      />
      <circle
        v-if="f.kind === 'bore'"
        :cx="X(f.at[0]!)"
        :cy="Y(f.at[1]!)"
        :r="Math.max(((f.diameter?.value ?? 0) * s) / 2, 2.5)"
        class="bore"
      />
    </g>
    <path
      v-for="(r, i) in part.screws ?? []"
      :key="`s${i}`"
      :d="crosses(r.at, X, Y)"
      :class="r.which ? 'screw some' : 'screw'"
    >
      <title>{{ r.words }}</title>
    </path>
    <g v-for="(b, i) in part.bevels ?? []" :key="`b${i}`">
      <path :d="linePath(b.along, X, Y)" class="bevel" />
      <text
        v-for="t in [tilt(b, X, Y)]"
        :key="t.words"
        :x="t.x"
        :y="t.y"
        :text-anchor="t.anchor"
        class="tilt"
      >
        {{ t.words }}
      </text>
    </g>
    <g v-for="(c, i) in part.corners" :key="c.letter">
      <circle :cx="X(c.u.value)" :cy="Y(c.v.value)" r="2.5" />
      <text
        :x="X(c.u.value) + (c.u.value > part.w.value / 2 ? -12 : 12)"
        :y="Y(c.v.value) + (c.v.value > part.h.value / 2 ? 16 : crowded(i, s) ? 16 : -7)"
        text-anchor="middle"
        class="letter"
      >
        {{ c.letter }}
      </text>
    </g>
    <g
      v-if="part.h.value * s > 60 && !windows"
      :transform="`translate(${X(part.w.value * 0.3)} ${middle(Y, s)})`"
    >
      <text text-anchor="middle" y="-4" class="mark">{{ part.mark }}</text>
      <g v-if="part.grain !== 'free'" :transform="part.grain === 'across' ? 'rotate(-90)' : ''">
        <path d="M-46 16h92m-10 -5l10 5l-10 5" class="grain" />
        <text x="-44" y="11" class="soft">grain</text>
      </g>
    </g>
    <g v-if="part.way.centre">
      <path
        :d="`M${X(part.way.centre[0]![0]!)} ${Y(part.way.centre[0]![1]!)}L${X(part.way.centre[1]![0]!)} ${Y(part.way.centre[1]![1]!)}`"
        class="centre"
      />
      <text
        :x="
          X(part.way.centre[1]![0]!) +
          (part.way.centre[0]![0] === part.way.centre[1]![0] ? 5 : -110)
        "
        :y="
          Y(part.way.centre[1]![1]!) +
          (part.way.centre[0]![0] === part.way.centre[1]![0] ? -28 : -5)
        "
        class="side red"
      >
        centre line
      </text>
    </g>
    <text :x="X(part.w.value / 2)" :y="Y(0) + 66" text-anchor="middle" class="side">
      {{ part.way.bottom }}
    </text>
    <text :x="X(part.w.value / 2)" :y="Y(part.h.value) - 54" text-anchor="middle" class="side">
      {{ part.way.top }}
    </text>
    <text
      :transform="`translate(${X(0) - 62} ${Y(part.h.value / 2)}) rotate(-90)`"
      text-anchor="middle"
      class="side"
    >
      {{ part.way.left }}
    </text>
    <text
      :transform="`translate(${X(part.w.value) + 64} ${Y(part.h.value / 2)}) rotate(-90)`"
      text-anchor="middle"
      class="side"
    >
      {{ part.way.right }}
    </text>
    <circle :cx="X(0)" :cy="Y(0)" r="7" class="origin" />
    <text :x="X(0) - 6" :y="Y(0) + 70" class="origin-text">mark from here</text>
  </DrawingFrame>
</template>

<style scoped>
.board {
  fill: var(--ply);
  stroke: var(--ink);
  stroke-width: 2;
}
.bevel {
  fill: none;
  stroke: var(--look);
  stroke-width: 4;
  stroke-dasharray: 9 4;
}
.tilt {
  font-size: 12px;
  font-weight: 600;
  fill: var(--look);
}
.letter {
  font-family: var(--mono);
  font-weight: 700;
  font-size: 13px;
}
.mark {
  font-size: 28px;
  font-weight: 800;
}
.grain {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.3;
}
.soft {
  fill: var(--ink);
  font-size: 12.5px;
}
.side {
  font-size: 13px;
  font-weight: 700;
  fill: var(--steel);
}
.side.red {
  fill: var(--stop);
}
.centre {
  stroke: var(--stop);
  stroke-width: 1.2;
  stroke-dasharray: 14 4 3 4;
  fill: none;
}
.bore {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 2 1.5;
}
.screw {
  fill: none;
  stroke: var(--steel);
  stroke-width: 1.5;
}
.screw.some {
  stroke-dasharray: 2 1.5;
}
.relief {
  stroke: var(--stop);
  stroke-width: 1.6;
}
.origin {
  fill: var(--stop);
}
.origin-text {
  fill: var(--stop);
  font-weight: 700;
}
</style>
