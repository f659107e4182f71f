<script setup lang="ts">
import { computed } from "vue";
import type { Ladder } from "@/api/types";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";
import { seated } from "./seated";
import type { Scale } from "./scale";

/** People seated on the mattress, with what is left over their heads. */
const props = defineProps<{ ladder: Ladder; at: Scale }>();
const store = useProject();
const view = useView();

const people = computed(() => {
  const chosen = props.ladder.chosen;
  if (!chosen) return [];
  const n = props.ladder.people.length;
  const w = (props.at.right - props.at.left) / Math.max(n, 1);
  return props.ladder.people.map((p, i) => ({
    ...p,
    x: props.at.left + i * w,
    w,
    crown: chosen.seat.value + p.sitting.value,
    seat: chosen.seat.value,
    over: (p.spare?.value ?? 0) < 0,
    close: store.shown?.findings.some((f) => f.id === `sits.${p.id}` && f.level === "look"),
    shape: seated(
      props.at.left + i * w + Math.min(w * 0.12, 40),
      props.at.Y(chosen.seat.value),
      p.sitting.value * props.at.s,
      w * 0.86,
    ),
  }));
});

/** Beside the head where there is room, else below it. */
function wordsAt(p: { crown: number; shape: { head: { ry: number } } }): number {
  return Math.max(props.at.Y(p.crown), props.at.top) + (props.at.narrow ? 2 * p.shape.head.ry : 0);
}
</script>

<template>
  <g>
    <g
      v-for="p in people"
      :key="p.id"
      class="person"
      :class="{ over: p.over, close: p.close, marked: view.marked === p.id }"
    >
      <path v-if="!at.narrow" :d="p.shape.body" />
      <path v-else :d="`M${p.shape.head.cx} ${at.Y(p.crown)}V${at.Y(p.seat)}`" />
      <ellipse v-bind="p.shape.head" />
      <line
        :x1="p.x + 20"
        :x2="p.x + p.w * 0.6"
        :y1="at.Y(p.crown)"
        :y2="at.Y(p.crown)"
        class="need"
      />
      <text :x="at.narrow ? p.x + 4 : p.shape.beside" :y="wordsAt(p) + 20" class="name">
        {{ p.name }}
      </text>
      <text :x="at.narrow ? p.x + 4 : p.shape.beside" :y="wordsAt(p) + 38" class="figure">
        {{ p.over ? "" : "+" }}{{ say(p.spare, store.system) }}{{ at.narrow ? "" : " over head" }}
      </text>
    </g>
  </g>
</template>

<style scoped>
.need {
  stroke: var(--steel);
  stroke-dasharray: 3 3;
}
.person path,
.person ellipse {
  fill: var(--fine);
  fill-opacity: 0.13;
  stroke: var(--fine);
  stroke-width: 1.8;
}
.person .need {
  stroke: var(--fine);
}
.person text {
  fill: var(--fine);
}
.person.over path,
.person.over ellipse,
.person.over .need {
  stroke: var(--stop);
  fill: var(--stop);
}
.person.close path,
.person.close ellipse,
.person.close .need {
  stroke: var(--look);
  fill: var(--look);
}
.person.close text {
  fill: var(--look);
}
.person.over text {
  fill: var(--stop);
}
.person.marked path {
  stroke-width: 3.5;
}
.name {
  font-weight: 700;
}
</style>
