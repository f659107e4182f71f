<script setup lang="ts">
import { computed } from "vue";
import type { Ask } from "@/api/types";
import DrawingFrame from "@/drawing/DrawingFrame.vue";
import { linePath } from "@/drawing/path";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";

/** The bay from its right side: floor, roof, wells, and the heights that were measured. */
const props = defineProps<{ ask?: Ask | null; compact?: boolean }>();
const store = useProject();
const view = useView();
const survey = computed(() => store.shown!.survey);
const length = computed(() => survey.value.length?.value ?? 2000);
const top = computed(() => Math.max(900, ...survey.value.roof.map((p) => p[1]!)));
const bounds = computed<[number, number, number, number]>(() => [0, 0, length.value, top.value]);
const marks = computed(() =>
  survey.value.marks.filter(
    (m) => m.place?.view === "section" && ["roof", "opening"].includes(m.quantity.of),
  ),
);
const askPlace = computed(() => (props.ask?.place?.view === "section" ? props.ask.place : null));
</script>

<template>
  <DrawingFrame
    v-slot="{ X, Y }"
    :bounds="bounds"
    label="Side view of the bay with the heights"
    :max-height="compact ? 236 : 230"
    :pad="24"
  >
    <path
      :d="linePath([[0, 0], ...survey.floor, [length, survey.floor.at(-1)?.[1] ?? 0]], X, Y)"
      class="floor"
    />
    <path v-if="survey.roof.length > 1" :d="linePath(survey.roof, X, Y)" class="roof" />
    <line :x1="X(0)" :x2="X(0)" :y1="Y(0)" :y2="Y(top)" class="threshold" />
    <line
      v-if="survey.length"
      :x1="X(length)"
      :x2="X(length)"
      :y1="Y(0)"
      :y2="Y(top)"
      class="roof"
    />
    <rect
      v-for="t in survey.things"
      :key="t.id"
      :x="X(t.x[0]!)"
      :y="Y(t.z[1]!)"
      :width="X(t.x[1]!) - X(t.x[0]!)"
      :height="Y(t.z[0]!) - Y(t.z[1]!)"
      class="thing"
    />
    <g
      v-for="(m, i) in marks"
      :key="m.key"
      class="mark"
      :class="[m.state, { marked: view.marked === m.key }]"
    >
      <line
        :x1="X(m.place!.from[0]!)"
        :x2="X(m.place!.to[0]!)"
        :y1="Y(m.place!.from[2]!)"
        :y2="Y(m.place!.to[2]!)"
      />
      <text
        :x="X(m.place!.to[0]!) + 6"
        :y="Y(m.place!.to[2]! * (i % 2 ? 0.72 : 0.55))"
        class="figure"
      >
        {{ say(m.figure, store.system) }}{{ m.state === "soft" ? " lining" : "" }}
      </text>
    </g>
    <g v-if="askPlace" class="ask tape-line">
      <line
        :x1="X(askPlace.from[0]!)"
        :x2="X(askPlace.to[0]!)"
        :y1="Y(askPlace.from[2]!)"
        :y2="Y(askPlace.to[2]!)"
      />
      <circle :cx="X(askPlace.to[0]!)" :cy="Y(askPlace.to[2]!)" r="6" />
    </g>
    <text :x="X(0) + 4" :y="Y(0) + 18" class="soft">side view, load floor below</text>
  </DrawingFrame>
</template>

<style scoped>
.floor,
.roof {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.2;
}
.thing {
  fill: var(--void);
  stroke: var(--hair-strong);
  stroke-width: 1.5;
}
.mark line {
  stroke: var(--steel);
  stroke-width: 1.2;
}
.mark.soft line {
  stroke-dasharray: 4 3;
}
.mark.disagrees line,
.mark.marked line {
  stroke: var(--stop);
  stroke-width: 2.2;
}
.ask circle {
  fill: var(--stop);
}
</style>
