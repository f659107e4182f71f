<script setup lang="ts">
import { computed } from "vue";
import type { Part, Shape } from "@/api/types";
import { regionPath } from "@/drawing/path";
import { useProject } from "@/store/project";

/** Where the boards of a part sit: all furniture from above and from the side, these boards dark. */
const props = defineProps<{ part: Part }>();
const store = useProject();

const WIDE = 250;
const PAD = 4;
const GAP = 12;
const views = computed(() => store.shown!.views);
/** The bounds of a view on paper. */
function bounds(shapes: Shape[]) {
  const points = shapes.flatMap((s) => s.outline.outer);
  const xs = points.map((p) => p[0]!);
  const ys = points.map((p) => p[1]!);
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)] as const;
}
const above = computed(() => bounds(views.value.above));
const side = computed(() => bounds(views.value.side));
const s = computed(() => (WIDE - 2 * PAD) / Math.max(above.value[2] - above.value[0], 1));
const X = (x: number) => PAD + (x - above.value[0]) * s.value;
const Y = (y: number) => PAD + (above.value[3] - y) * s.value;
const sideBase = computed(
  () => Y(above.value[1]) + GAP + (side.value[3] - side.value[1]) * s.value,
);
const Z = (z: number) => sideBase.value - (z - side.value[1]) * s.value;
const own = (shape: Shape) => props.part.boards.includes(shape.board);
/** These boards last, so that they are seen through what lies over them. */
const ordered = (shapes: Shape[]) => [...shapes].sort((a, b) => Number(own(a)) - Number(own(b)));
</script>

<template>
  <svg
    v-if="views.above.length"
    class="place"
    :width="WIDE"
    :height="sideBase + PAD"
    :viewBox="`0 0 ${WIDE} ${sideBase + PAD}`"
    role="img"
    :aria-label="`Where ${part.mark} sits, from above and from the side`"
  >
    <path
      v-for="o in ordered(views.above)"
      :key="o.board"
      :d="regionPath(o.outline, X, Y)"
      :class="{ own: own(o) }"
    />
    <path
      v-for="o in ordered(views.side)"
      :key="o.board"
      :d="regionPath(o.outline, X, Z)"
      :class="{ own: own(o) }"
    />
  </svg>
</template>

<style scoped>
.place {
  max-width: 100%;
  height: auto;
}
path {
  fill: var(--paper);
  stroke: var(--hair-strong);
  stroke-width: 1;
  fill-rule: evenodd;
}
.own {
  fill: var(--ply);
  stroke: var(--ink);
  stroke-width: 1.5;
}
</style>
