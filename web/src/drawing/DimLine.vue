<script setup lang="ts">
import { computed } from "vue";

/** A dimension line between two points of the drawing, in pixels, its words in the middle. */
const props = defineProps<{ x1: number; y1: number; x2: number; y2: number; words: string }>();
const upright = computed(() => Math.abs(props.x2 - props.x1) < Math.abs(props.y2 - props.y1));
const mx = computed(() => (props.x1 + props.x2) / 2);
const my = computed(() => (props.y1 + props.y2) / 2);
const half = computed(() => props.words.length * 4.4 + 4);
</script>

<template>
  <g class="dim">
    <line :x1="x1" :y1="y1" :x2="x2" :y2="y2" />
    <path :d="`M${x1 - 4} ${y1 + 4}l8 -8M${x2 - 4} ${y2 + 4}l8 -8`" />
    <g :transform="upright ? `rotate(-90 ${mx} ${my})` : undefined">
      <rect :x="mx - half" :y="my - 9" :width="2 * half" height="18" />
      <text :x="mx" :y="my + 5" text-anchor="middle">{{ words }}</text>
    </g>
  </g>
</template>

<style scoped>
.dim line,
.dim path {
  stroke: var(--ink);
  stroke-width: 1;
  fill: none;
}
.dim rect {
  fill: var(--paper);
}
.dim text {
  font-family: var(--mono);
  font-size: 13.5px;
  font-weight: 600;
}
</style>
