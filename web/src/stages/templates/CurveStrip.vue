<script setup lang="ts">
import { computed } from "vue";
import type { Plan } from "@/api/types";
import { useProject } from "@/store/project";
import { say } from "@/units/text";

/** Under the drawing of a curve and aligned with it, enlarged: how far each reading lies off it, in the band in which the
 * curve can still be. */
type Curve = Plan["templates"][number];
const props = defineProps<{
  sure: NonNullable<Curve["sure"]>;
  misfit?: string | undefined;
  width: number;
  x: (v: number) => number;
}>();
const store = useProject();
const HIGH = 76;
/** The furthest of what is drawn lies so far from the middle, pixels. */
const MOST = 30;
const scale = computed(
  () => MOST / Math.max(props.sure.widest.value, props.sure.furthest.value, 0.05),
);
const Y = (mm: number) => {
  // A reading that is wrong would make everything else flat.
  const off = Math.min(Math.max(mm * scale.value, 5 - HIGH / 2), HIGH / 2 - 5);
  return HIGH / 2 - off;
};
const bands = computed(() =>
  // Of a part with two readings nothing is known between them.
  props.sure.band
    .filter((part) => part.length)
    .map((part) => {
      const over = part.map(([at, mm]) => `${props.x(at!)} ${Y(mm!)}`);
      const under = part.map(([at, mm]) => `${props.x(at!)} ${Y(-mm!)}`).reverse();
      return `M${[...over, ...under].join("L")}Z`;
    }),
);
</script>

<template>
  <svg
    :viewBox="`0 0 ${width} ${HIGH}`"
    :height="HIGH"
    role="img"
    :aria-label="`How far the readings lie off the curve, up to ${say(sure.furthest, store.system, true)}, and the band in which it can be, up to ${say(sure.widest, store.system, true)} to either side.`"
  >
    <path v-for="(d, i) in bands" :key="i" class="band" :d="d" />
    <line x1="0" :x2="width" :y1="HIGH / 2" :y2="HIGH / 2" />
    <g v-for="o in sure.off" :key="o.id" :class="{ off: o.id === misfit }">
      <path :d="`M${x(o.at)} ${HIGH / 2}V${Y(o.mm)}`" />
      <circle :cx="x(o.at)" :cy="Y(o.mm)" r="3.5" />
    </g>
  </svg>
  <p class="small soft">
    Enlarged: the readings lie off the curve by up to
    {{ say(sure.furthest, store.system, true) }}; nineteen times in twenty it lies in the band, at
    its widest {{ say(sure.widest, store.system, true) }} to either side.
    <template v-if="sure.astray">
      The marked one lies {{ say(sure.astray, store.system, true) }} off what the others say.
    </template>
  </p>
</template>

<style scoped>
svg {
  display: block;
  /* Drawing and strip lie exactly over each other: neither is shrunk by its own frame. */
  box-sizing: content-box;
  width: calc(100% - 2px);
  margin-top: 6px;
  border: 1px solid var(--hair);
  border-radius: var(--r);
  background: var(--paper);
}
.band {
  fill: var(--tape);
  fill-opacity: 0.45;
  stroke: none;
}
line,
path {
  stroke: var(--ink-2);
  stroke-width: 1;
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
.small {
  font-size: 14px;
}
</style>
