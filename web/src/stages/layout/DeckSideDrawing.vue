<script setup lang="ts">
import { computed } from "vue";
import type { DeckPlan } from "@/api/types";
import DrawingFrame from "@/drawing/DrawingFrame.vue";
import { linePath } from "@/drawing/path";
import { useProject } from "@/store/project";
import { say } from "@/units/text";

/** The deck from the side: floor, roof, wells, supports, mattress. */
const props = defineProps<{ deck: DeckPlan }>();
const store = useProject();
const survey = computed(() => store.shown!.survey);
const ladder = computed(() => store.shown?.ladder ?? null);
const x0 = computed(() => Math.min(...props.deck.panels.flatMap((p) => p.outer.map((q) => q[0]!))));
const x1 = computed(() => Math.max(...props.deck.panels.flatMap((p) => p.outer.map((q) => q[0]!))));
const top = computed(() => Math.max(600, ...survey.value.roof.map((p) => p[1]!)));
const length = computed(() => survey.value.length?.value ?? x1.value);
const bounds = computed<[number, number, number, number]>(() => [0, 0, length.value, top.value]);
const underside = computed(() => props.deck.underside.value);
const deckTop = computed(() => props.deck.underside.value + props.deck.thickness.value);
const floor = computed(() => [
  [0, 0],
  ...survey.value.floor,
  [length.value, survey.value.floor.at(-1)?.[1] ?? 0],
]);
</script>

<template>
  <DrawingFrame
    v-slot="{ X, Y, s }"
    :bounds="bounds"
    label="Deck from the side"
    :max-height="210"
    :pad="26"
  >
    <path :d="linePath(floor, X, Y)" class="shell" />
    <path v-if="survey.roof.length > 1" :d="linePath(survey.roof, X, Y)" class="shell" />
    <rect
      v-for="t in survey.things"
      :key="t.id"
      :x="X(t.x[0]!)"
      :y="Y(t.z[1]!)"
      :width="X(t.x[1]!) - X(t.x[0]!)"
      :height="Y(t.z[0]!) - Y(t.z[1]!)"
      class="thing"
    />
    <rect
      v-for="x in deck.lines"
      :key="x"
      :x="X(x) - Math.max(7 * s, 2)"
      :y="Y(underside)"
      :width="Math.max(14 * s, 4)"
      :height="Y(0) - Y(underside)"
      class="support"
    />
    <rect
      :x="X(x0)"
      :y="Y(deckTop)"
      :width="X(x1) - X(x0)"
      :height="Math.max(Y(underside) - Y(deckTop), 4)"
      class="ply"
    />
    <rect
      v-if="ladder?.chosen && ladder.mattress.value > 0"
      :x="X(x0)"
      :y="Y(ladder.chosen.sleep_surface.value)"
      :width="X(x1) - X(x0)"
      :height="Y(deckTop) - Y(ladder.chosen.sleep_surface.value)"
      class="mattress"
    />
    <template v-if="ladder?.chosen">
      <line
        :x1="X(length * 0.5)"
        :x2="X(length * 0.5)"
        :y1="Y(ladder.chosen.seat.value)"
        :y2="Y(ladder.chosen.seat.value + ladder.chosen.headroom.value)"
        class="need"
      />
      <text
        :x="X(length * 0.5) + 8"
        :y="Y(ladder.chosen.seat.value + ladder.chosen.headroom.value / 2)"
        class="figure"
      >
        {{ say(ladder.chosen.headroom, store.system) }} from the seat
      </text>
    </template>
    <text :x="X(length) - 4" :y="Y(underside / 2) + 5" text-anchor="end" class="figure">
      {{ say(deck.underside, store.system) }}
    </text>
    <text :x="X(0)" :y="Y(0) + 18" class="soft">side view, rear at the left</text>
  </DrawingFrame>
</template>

<style scoped>
.shell {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.2;
}
.thing {
  fill: var(--void);
  stroke: var(--hair-strong);
}
.support {
  fill: var(--ply);
  stroke: var(--ply-edge);
}
.ply {
  fill: var(--ply);
  stroke: var(--ply-edge);
  stroke-width: 1.5;
}
.mattress {
  fill: none;
  stroke: var(--ink-2);
  rx: 6px;
}
.need {
  stroke: var(--steel);
  stroke-dasharray: 4 3;
}
</style>
