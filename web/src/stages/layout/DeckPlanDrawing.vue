<script setup lang="ts">
import { computed } from "vue";
import type { DeckPlan } from "@/api/types";
import DimLine from "@/drawing/DimLine.vue";
import DrawingFrame from "@/drawing/DrawingFrame.vue";
import { regionPath } from "@/drawing/path";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";

/** The deck in the bay, from above: panels, cut-outs, supports, vents. */
const props = defineProps<{ deck: DeckPlan }>();
const store = useProject();
const view = useView();
const bounds = computed<[number, number, number, number]>(() => {
  const xs = props.deck.bay.outer.map((p) => p[0]!);
  const ys = props.deck.bay.outer.map((p) => p[1]!);
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
});
const parts = computed(() =>
  (store.shown?.parts ?? []).filter((p) => p.module === props.deck.id && /^[DS]\d/.test(p.mark)),
);
const spans = computed(() => props.deck.lines.slice(1).map((x, i) => [props.deck.lines[i]!, x]));
</script>

<template>
  <DrawingFrame
    v-slot="{ X, Y, s }"
    :bounds="bounds"
    label="Deck in plan"
    :max-height="350"
    :pad="36"
  >
    <path :d="regionPath(deck.bay, X, Y)" class="bay" />
    <path
      v-for="(o, i) in deck.obstacles"
      :key="`o${i}`"
      :d="regionPath(o, X, Y)"
      class="thing"
      :clip-path="`url(#bay-${deck.id})`"
    />
    <clipPath :id="`bay-${deck.id}`"><path :d="regionPath(deck.bay, X, Y)" /></clipPath>
    <template v-if="view.compared">
      <path
        v-for="(p, i) in view.compared.plan.decks.find((d) => d.id === deck.id)?.panels ?? []"
        :key="`was${i}`"
        :d="regionPath(p, X, Y)"
        class="was"
      />
    </template>
    <path v-for="(p, i) in deck.panels" :key="`p${i}`" :d="regionPath(p, X, Y)" class="panel" />
    <path
      v-for="(b, i) in deck.below"
      :key="`b${i}`"
      :d="regionPath(b, X, Y)"
      class="below"
      :clip-path="`url(#bay-${deck.id})`"
    />
    <path
      v-for="(f, i) in deck.supports"
      :key="`s${i}`"
      :d="regionPath(f, X, Y)"
      class="support"
      :class="{ marked: view.marked === 'spans' }"
    />
    <circle
      v-for="(v, i) in deck.vents"
      :key="`v${i}`"
      :cx="X(v[0]!)"
      :cy="Y(v[1]!)"
      :r="Math.max(16 * s, 2.5)"
      class="vent"
    />
    <template v-if="parts.length <= 6">
      <text
        v-for="p in parts"
        :key="p.id"
        :x="X(p.at[0]! + p.w.value * 0.16)"
        :y="Y(p.at[1]! + p.h.value / 2) + 8"
        class="label"
        :class="{ marked: view.marked === p.id }"
      >
        {{ p.mark }}
      </text>
    </template>
    <text
      :transform="`translate(${X(bounds[0]) - 12} ${Y(0)}) rotate(-90)`"
      text-anchor="middle"
      class="soft"
    >
      rear threshold
    </text>
    <DimLine
      v-for="[a, b] in spans"
      :key="a"
      :x1="X(a!)"
      :x2="X(b!)"
      :y1="Y(bounds[1]) + 22"
      :y2="Y(bounds[1]) + 22"
      :words="say(deck.span, store.system)"
    />
  </DrawingFrame>
</template>

<style scoped>
.bay {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2.2;
}
.thing {
  fill: var(--void);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.below {
  fill: none;
  stroke: var(--ink-2);
  stroke-dasharray: 4 4;
}
.panel {
  fill: var(--ply);
  stroke: var(--ply-edge);
  stroke-width: 2;
}
.was {
  fill: none;
  stroke: var(--stop);
  stroke-width: 2.5;
  stroke-dasharray: 8 4;
}
.support {
  fill: var(--ply-edge);
  fill-opacity: 0.35;
  stroke: var(--ink);
  stroke-width: 1;
  stroke-dasharray: 5 3;
}
.support.marked {
  stroke: var(--stop);
  stroke-width: 2.5;
}
.vent {
  fill: var(--paper);
  stroke: var(--ply-edge);
}
.label {
  font-size: 26px;
  font-weight: 800;
}
.label.marked {
  fill: var(--stop);
}
</style>
