<script setup lang="ts">
import { computed } from "vue";
import type { Ladder, RungView } from "@/api/types";
import { useProject } from "@/store/project";
import { say } from "@/units/text";
import type { Scale } from "./scale";

/** The heights worth choosing, the chosen one among them. */
const props = defineProps<{ ladder: Ladder; at: Scale }>();
const emit = defineEmits<{ choose: [number] }>();
const store = useProject();

/** Rungs with the chosen height among them, labels pushed apart so that none covers another. */
const labels = computed(() => {
  const rows: { rung: RungView; y: number; at: number; here: boolean }[] = props.ladder.rungs.map(
    (rung) => ({
      rung,
      at: props.at.Y(rung.underside.value),
      y: props.at.Y(rung.underside.value),
      here: rung.chosen,
    }),
  );
  const chosen = props.ladder.chosen;
  if (chosen && !rows.some((r) => r.here)) {
    const y = props.at.Y(chosen.underside.value);
    rows.push({ rung: chosen, at: y, y, here: true });
  }
  rows.sort((a, b) => b.at - a.at);
  for (let i = 1; i < rows.length; i++) rows[i]!.y = Math.min(rows[i]!.y, rows[i - 1]!.y - 27);
  return rows;
});

/** What of a label fits beside its figure. */
function short(label: string, figure: string): string {
  if (props.at.narrow) return "";
  const most = Math.floor((props.at.width - props.at.right - 44 - 9 * figure.length) / 6.5);
  return label.length > most ? `${label.slice(0, most - 1)}…` : label;
}
</script>

<template>
  <g>
    <text :x="at.right + 22" :y="at.top - 14" class="head">Rungs</text>
    <g
      v-for="l in labels"
      :key="l.rung.underside.value"
      class="rung"
      :class="[`of-${l.rung.kind}`, { here: l.here }]"
      role="button"
      tabindex="0"
      :aria-label="`${say(l.rung.underside, store.system, true)}: ${l.rung.label}`"
      :aria-pressed="l.here"
      @click="emit('choose', l.rung.underside.value)"
      @keydown.enter="emit('choose', l.rung.underside.value)"
      @keydown.space.prevent="emit('choose', l.rung.underside.value)"
    >
      <title>{{ l.rung.label }}</title>
      <path :d="`M${at.right + 2} ${l.at}h5L${at.right + 16} ${l.y}h4`" class="leader" />
      <rect
        :x="at.right + 20"
        :y="l.y - 13"
        :width="at.width - at.right - 22"
        height="26"
        class="plate"
      />
      <text :x="at.right + 26" :y="l.y + 5">
        <tspan class="figure">{{ say(l.rung.underside, store.system) }}</tspan>
        <tspan dx="8">{{ short(l.rung.label, say(l.rung.underside, store.system)) }}</tspan>
      </text>
    </g>
  </g>
</template>

<style scoped>
.head {
  font-weight: 700;
}
.rung {
  cursor: pointer;
}
.rung:focus {
  outline: none;
}
.rung:focus-visible .plate {
  stroke: var(--ink);
  stroke-width: 2.5;
}
.leader {
  fill: none;
  stroke: var(--hair-strong);
  stroke-width: 1.3;
}
.plate {
  fill: transparent;
}
.rung:hover .plate {
  fill: var(--ground);
}
.rung.of-person text {
  fill: var(--fine);
}
.rung.here .plate,
.rung.here:hover .plate {
  fill: var(--ink);
}
.rung.here text {
  fill: var(--on-ink);
}
.rung.here .leader {
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
