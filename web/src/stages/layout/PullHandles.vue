<script setup lang="ts">
import { computed } from "vue";
import type { Handle } from "@/api/types";
import { useProject } from "@/store/project";
import { say } from "@/units/text";
import type { usePull } from "./usePull";

/** Handles of the picked piece in one view: pulled by pointer, moved by the arrow keys, or by the page keys to what holds next. */
const props = defineProps<{
  handles: readonly Handle[];
  pull: ReturnType<typeof usePull>;
  /** Which axis of the vehicle runs to the right and which up the screen, and which way: `[axis, sign]`. */
  right: readonly [number, number];
  up: readonly [number, number];
  /** Where a place of the vehicle is on the screen. */
  toX: (place: number) => number;
  toY: (place: number) => number;
  /** Axes whose handles are shown here. */
  axes: readonly number[];
  /** How far to the right words may reach. */
  edge: number;
}>();
const store = useProject();

/** What the number is now, in words: from the plan that answers while it is pulled. */
function words(handle: Handle) {
  const fields = store.shown?.modules.flatMap((m) => m.form) ?? [];
  const field = fields.find((f) => f.pointer === handle.pointer);
  return field?.value.kind === "length" ? say(field.value.now, store.system, true) : "";
}
/** Where the axis of a handle points on the screen. */
function way(handle: Handle) {
  if (handle.axis === props.right[0]) return { x: props.right[1], y: 0 };
  return { x: 0, y: -props.up[1] };
}
/** How far beside a handle at `x` words begin so that they end before the edge; a figure's letters are this wide. */
function beside(x: number, text: string) {
  const LETTER = 8.4;
  return Math.min(16, props.edge - x - text.length * LETTER);
}
const shown = computed(() =>
  props.handles
    .filter((h) => props.axes.includes(h.axis))
    .map((handle) => {
      const held = props.pull.pulled.value;
      const mine = held?.handle === handle;
      const at = [...handle.at];
      if (mine) at[handle.axis]! += (held.value - handle.value) * handle.per;
      return {
        handle,
        mine,
        caught: mine && held.caught ? `at the ${held.caught}` : "",
        x: props.toX(at[props.right[0]]!),
        y: props.toY(at[props.up[0]]!),
        way: way(handle),
      };
    }),
);
</script>

<template>
  <g
    v-for="h in shown"
    :key="h.handle.pointer"
    class="handle"
    :class="{ mine: h.mine }"
    :style="{ cursor: h.way.x ? 'ew-resize' : 'ns-resize' }"
    :transform="`translate(${h.x} ${h.y})`"
    tabindex="0"
    role="slider"
    :aria-label="`${h.handle.label}, in the drawing`"
    :aria-orientation="h.way.x ? 'horizontal' : 'vertical'"
    :aria-valuenow="Math.round(h.handle.value)"
    :aria-valuetext="words(h.handle)"
    @pointerdown.stop="pull.grab(h.handle, $event)"
    @pointermove="pull.drag($event, h.way)"
    @pointerup="pull.drop()"
    @pointercancel="pull.drop()"
    @keydown="pull.key(h.handle, $event)"
  >
    <title>{{ h.handle.label }}: {{ words(h.handle) }}</title>
    <g :transform="h.way.x ? '' : 'rotate(90)'">
      <circle r="12.5" class="reach" />
      <path d="M-10 0l6 -5v10zM10 0l-6 -5v10z" />
      <line x1="0" x2="0" y1="-7" y2="7" />
    </g>
    <text v-if="h.mine" class="figure">
      <tspan :x="beside(h.x, words(h.handle))" y="-18">{{ words(h.handle) }}</tspan>
      <tspan v-if="h.caught" :x="beside(h.x, h.caught)" y="28">{{ h.caught }}</tspan>
    </text>
  </g>
</template>

<style scoped>
.handle {
  touch-action: none;
}
.handle path {
  fill: var(--ink);
  stroke: var(--paper);
  stroke-width: 1.5;
  paint-order: stroke;
}
.handle line {
  stroke: var(--ink);
  stroke-width: 2;
}
.handle .reach {
  fill: var(--paper);
  fill-opacity: 0.55;
}
.handle:hover .reach,
.handle:focus-visible .reach {
  fill-opacity: 1;
  stroke: var(--ink);
  stroke-width: 2;
}
.handle:focus {
  outline: none;
}
.mine .reach {
  fill: var(--tape);
  fill-opacity: 1;
}
.figure {
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4;
  font-weight: 700;
}
</style>
