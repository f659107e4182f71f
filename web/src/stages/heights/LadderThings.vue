<script setup lang="ts">
import { computed } from "vue";
import type { Ladder } from "@/api/types";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";
import type { Scale } from "./scale";

/** What stands on the floor: wells and folded seats at their sides, the gear between them. */
const props = defineProps<{ ladder: Ladder; at: Scale }>();
const store = useProject();
const view = useView();

/** Wells and folded seats: narrow blocks at their own side of the drawing, up to their tops. */
const fixed = computed(() =>
  props.ladder.fixed.map((f, i) => {
    const before = props.ladder.fixed.slice(0, i).filter((o) => o.side === f.side).length;
    const w = props.at.narrow ? 8 : 14;
    const at = before * (w + 3);
    return { ...f, w, x: f.side === "left" ? props.at.left + at : props.at.right - w - at };
  }),
);

const gear = computed(() => {
  const n = props.ladder.items.length;
  const inset = (side: string) =>
    fixed.value.filter((f) => f.side === side).reduce((most, f) => most + f.w + 3, 0);
  const from = props.at.left + inset("left");
  const w = (props.at.right - inset("right") - from) / Math.max(n, 1);
  return props.ladder.items.map((item, i) => ({
    ...item,
    x: from + i * w + 5,
    w: Math.max(w - 10, 12),
  }));
});
</script>

<template>
  <g>
    <g v-for="f in fixed" :key="f.id">
      <title>{{ f.name }}, top {{ say(f.top, store.system, true) }}</title>
      <rect
        :x="f.x"
        :y="at.Y(f.top.value)"
        :width="f.w"
        :height="Math.max(at.Y(f.from) - at.Y(f.top.value), 2)"
        class="fixed"
        :class="{ marked: view.marked === f.id }"
      />
    </g>
    <g v-for="g in gear" :key="g.id">
      <rect
        :x="g.x"
        :y="at.Y(g.h.value)"
        :width="g.w"
        :height="at.floorY - at.Y(g.h.value)"
        class="gear"
        :class="{ over: g.fits === false, marked: view.marked === g.id }"
      />
      <line
        v-if="g.clearance.value > 0"
        :x1="g.x"
        :x2="g.x + g.w"
        :y1="at.Y(g.needs.value)"
        :y2="at.Y(g.needs.value)"
        class="need"
      />
      <foreignObject
        v-if="at.floorY - at.Y(g.h.value) > 30"
        :x="g.x + 2"
        :y="at.floorY - (at.narrow ? 26 : 54)"
        :width="g.w - 4"
        height="54"
      >
        <p class="gear-name">
          <template v-if="!at.narrow">{{ g.name }}<br /></template
          ><b>{{ say(g.needs, store.system) }}</b>
        </p>
      </foreignObject>
    </g>
  </g>
</template>

<style scoped>
.gear {
  fill: var(--gear);
  stroke: var(--steel);
  stroke-width: 1.5;
}
.fixed {
  fill: var(--steel);
  fill-opacity: 0.35;
  stroke: var(--steel);
  stroke-width: 1.5;
}
.fixed.marked {
  stroke-width: 4;
}
.gear.over {
  fill: none;
  stroke: var(--stop);
  stroke-width: 2;
  stroke-dasharray: 6 4;
}
.gear.marked {
  stroke-width: 4;
}
.gear-name {
  font-size: 12.5px;
  line-height: 1.2;
  text-align: center;
  color: var(--ink);
}
.need {
  stroke: var(--steel);
  stroke-dasharray: 3 3;
}
</style>
