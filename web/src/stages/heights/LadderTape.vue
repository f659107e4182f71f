<script setup lang="ts">
import { computed } from "vue";
import type { Ladder } from "@/api/types";
import { useProject } from "@/store/project";
import { say } from "@/units/text";
import type { Scale } from "./scale";

/** The tape at the left edge, the roof and the load floor. */
const props = defineProps<{ ladder: Ladder; at: Scale }>();
const store = useProject();

const ticks = computed(() => {
  const inches = store.system === "in";
  const step = inches ? 25.4 : 10;
  const every = inches ? 6 : 10;
  const out: { y: number; long: boolean; text: string }[] = [];
  for (let i = 0; i * step <= props.at.roof; i++) {
    const long = i % every === 0;
    if (!long && i % (every / 2) !== 0 && props.at.s * step < 4) continue;
    out.push({ y: props.at.Y(i * step), long, text: long && i > 0 ? String(i) : "" });
  }
  return out;
});
</script>

<template>
  <g>
    <rect x="4" :y="at.Y(at.roof)" width="40" :height="at.floorY - at.Y(at.roof)" class="rule" />
    <g v-for="t in ticks" :key="t.y">
      <line :x1="t.long ? 31 : 37" x2="44" :y1="t.y" :y2="t.y" class="tick" />
      <text v-if="t.text" x="6" :y="t.y + 5" class="tick-text">{{ t.text }}</text>
    </g>
    <text x="4" :y="at.floorY + 22" class="soft">{{
      store.system === "in" ? "inches" : "cm"
    }}</text>
    <path
      :d="`M${at.left} ${at.Y(at.roof) + 3}Q${(at.left + at.right) / 2} ${at.Y(at.roof) - 8} ${at.right} ${at.Y(at.roof) + 3}`"
      class="roof"
    />
    <text :x="at.left + 4" :y="at.top - 14" class="soft">
      {{
        ladder.soft ? "roof lining, soft: hung from the tube behind it" : "roof, lowest measured"
      }}
      {{ say(ladder.floor_to_roof, store.system) }}
    </text>
    <line :x1="at.left" :x2="at.right" :y1="at.floorY" :y2="at.floorY" class="roof" />
    <text :x="at.right" :y="at.floorY + 20" text-anchor="end" class="soft">load floor</text>
  </g>
</template>

<style scoped>
.rule {
  fill: var(--tape);
  stroke: var(--tick);
  stroke-width: 1.2;
}
.tick {
  stroke: var(--tick);
  stroke-width: 1;
}
.tick-text {
  font-family: var(--mono);
  font-size: 12.5px;
}
.roof {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}
</style>
