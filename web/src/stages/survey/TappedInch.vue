<script setup lang="ts">
import { computed, ref } from "vue";

/** One inch, drawn large: the fraction is tapped, so that it cannot be misread. */
const props = defineProps<{
  /** The fraction chosen, such as `3/16`; empty for the whole inch. */
  value: string;
  /** The finest marks on the person's tape. */
  denominator: number;
}>();
const emit = defineEmits<{ choose: [fraction: string] }>();

const finer = ref(false);
const W = 360;
const EDGE = 14;
const marks = computed(() => {
  const coarse = Math.min(props.denominator, 16);
  const n = finer.value ? coarse * 2 : coarse;
  return Array.from({ length: n + 1 }, (_, i) => {
    // In lowest terms, by halving as the marks of a tape do.
    let [top, bottom] = [i, n];
    while (top % 2 === 0 && bottom > 1) [top, bottom] = [top / 2, bottom / 2];
    const whole = i === 0 || i === n;
    return {
      x: EDGE + ((W - 2 * EDGE) * i) / n,
      text: i === 0 ? "" : whole ? "1" : `${top}/${bottom}`,
      long: { 1: 58, 2: 46, 4: 36, 8: 27, 16: 19 }[bottom] ?? 13,
      whole,
      labelled: bottom === 2 || bottom === 4,
    };
  });
});
const chosen = computed(() =>
  marks.value.find((m) => m.text === props.value && !(m.whole && m.text)),
);
const choices = computed(() => marks.value.filter((m) => m.text !== "1"));

function tap(event: PointerEvent | MouseEvent) {
  const box = (event.currentTarget as Element).getBoundingClientRect();
  const at = ((event.clientX - box.left) / box.width) * W;
  const near = choices.value.reduce((best, m) =>
    Math.abs(m.x - at) < Math.abs(best.x - at) ? m : best,
  );
  emit("choose", near.text);
}
function step(by: number) {
  const at = choices.value.findIndex((m) => m === chosen.value);
  const next = choices.value[Math.min(Math.max(at + by, 0), choices.value.length - 1)];
  emit("choose", next?.text ?? "");
}
</script>

<template>
  <div class="inch">
    <svg
      :viewBox="`0 0 ${W} 74`"
      role="slider"
      tabindex="0"
      aria-label="Fraction of the inch"
      :aria-valuetext="value || 'none'"
      :aria-valuenow="choices.findIndex((m) => m === chosen)"
      aria-valuemin="0"
      :aria-valuemax="choices.length - 1"
      @click="tap"
      @keydown.right.prevent="step(1)"
      @keydown.left.prevent="step(-1)"
    >
      <g v-for="(m, i) in marks" :key="i">
        <line :x1="m.x" :x2="m.x" y1="0" :y2="m.long" class="tick" :class="{ whole: m.whole }" />
        <text v-if="m.labelled" :x="m.x" :y="m.long + 14" text-anchor="middle">{{ m.text }}</text>
      </g>
      <path v-if="chosen && value" :d="`M${chosen.x} 0V66m-7 8l7 -9l7 9z`" class="chosen" />
    </svg>
    <button type="button" class="key finer" :aria-pressed="finer" @click="finer = !finer">
      {{ finer ? "coarser" : "finer" }}
    </button>
  </div>
</template>

<style scoped>
.inch {
  display: flex;
  gap: 6px;
  margin-top: 6px;
}
svg {
  flex: 1;
  min-width: 0;
  height: 74px;
  background: var(--tape-key);
  touch-action: manipulation;
}
.tick {
  stroke: var(--tick);
  stroke-width: 1.3;
}
.tick.whole {
  stroke-width: 2.2;
}
text {
  font: 700 13px var(--mono);
  fill: var(--tick);
}
.chosen {
  stroke: var(--stop);
  stroke-width: 2.5;
  fill: var(--stop);
}
.finer {
  border: 1.5px solid var(--tick);
  border-radius: var(--r);
  background: var(--tape-key);
  color: var(--ink);
  font: 700 13px var(--font);
  min-width: 62px;
}
</style>
