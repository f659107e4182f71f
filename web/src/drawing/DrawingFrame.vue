<script setup lang="ts">
import { computed, ref } from "vue";
import { useWidth } from "./useWidth";

/** Fits a stretch of the real thing, in mm with y up, into the width there is. Text stays in
 * pixels: the slot gets the two mappings and the scale. */
const props = withDefaults(
  defineProps<{
    bounds: [number, number, number, number];
    label: string;
    pad?: number;
    maxHeight?: number;
    /** So many more pixels below, for what is written there. */
    below?: number;
  }>(),
  { pad: 44, maxHeight: 520, below: 0 },
);

const box = ref<HTMLElement | null>(null);
const width = useWidth(box, 700);

const fit = computed(() => {
  const [x0, y0, x1, y1] = props.bounds;
  const p = props.pad;
  const s = Math.min(
    (width.value - 2 * p) / Math.max(x1 - x0, 1),
    (props.maxHeight - 2 * p) / Math.max(y1 - y0, 1),
  );
  const height = (y1 - y0) * s + 2 * p + props.below;
  const left = (width.value - (x1 - x0) * s) / 2;
  return {
    s,
    w: width.value,
    height,
    X: (x: number) => left + (x - x0) * s,
    Y: (y: number) => height - props.below - p - (y - y0) * s,
  };
});
</script>

<template>
  <div ref="box" class="drawing">
    <svg
      :width="fit.w"
      :height="fit.height"
      :viewBox="`0 0 ${fit.w} ${fit.height}`"
      role="img"
      :aria-label="label"
    >
      <slot :X="fit.X" :Y="fit.Y" :s="fit.s" :w="fit.w" :h="fit.height" />
    </svg>
  </div>
</template>

<style scoped>
.drawing {
  width: 100%;
  min-width: 0;
  overflow: hidden;
}
svg {
  display: block;
  font-family: var(--font);
  font-size: 13.5px;
  fill: var(--ink);
}
</style>
