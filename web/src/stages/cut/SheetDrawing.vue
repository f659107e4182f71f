<script setup lang="ts">
import { computed } from "vue";
import type { SheetView } from "@/api/types";
import DrawingFrame from "@/drawing/DrawingFrame.vue";
import { type Run, tags } from "@/drawing/tags";
import { useProject } from "@/store/project";
import { say } from "@/units/text";

/** A sheet with its parts and the cuts numbered in order. */
const props = defineProps<{ sheet: SheetView }>();
const store = useProject();
const bounds = computed<[number, number, number, number]>(() => [
  0,
  0,
  props.sheet.w.value,
  props.sheet.h.value,
]);
/** Side of a number's square, px. */
const TAG = 18;
/** The cuts on the screen, and where the number of each stands. */
function cuts(X: (x: number) => number, Y: (y: number) => number) {
  const runs = props.sheet.cuts.map((c): Run => {
    const end = (along: number): [number, number] =>
      c.axis === "x" ? [X(c.at.value), Y(along)] : [X(along), Y(c.at.value)];
    return { from: end(c.from), to: end(c.to) };
  });
  const places = tags(runs, TAG);
  return props.sheet.cuts.map(({ key, done, n }, i) => ({
    key,
    done,
    n,
    ...runs[i]!,
    tag: places[i]!,
  }));
}
</script>

<template>
  <DrawingFrame
    v-slot="{ X, Y, s }"
    :bounds="bounds"
    :label="`Sheet ${sheet.mark} with its parts and cuts`"
    :max-height="330"
    :pad="24"
  >
    <rect
      :x="X(0)"
      :y="Y(bounds[3])"
      :width="bounds[2] * s"
      :height="bounds[3] * s"
      class="sheet"
    />
    <g v-for="o in sheet.offcuts" :key="o.mark">
      <rect
        :x="X(o.x)"
        :y="Y(o.y + o.h.value)"
        :width="o.w.value * s"
        :height="o.h.value * s"
        class="offcut"
      />
      <text
        v-if="o.w.value * s > 40 && o.h.value * s > 16"
        :x="X(o.x + o.w.value / 2)"
        :y="Y(o.y + o.h.value / 2) + 5"
        text-anchor="middle"
        class="soft"
      >
        {{ o.mark }}
      </text>
    </g>
    <g v-for="(p, i) in sheet.parts" :key="i">
      <rect
        :x="X(p.x)"
        :y="Y(p.y + p.h)"
        :width="p.w * s"
        :height="p.h * s"
        class="part"
        :class="[p.standing, { cut: p.cut }]"
      />
      <text
        v-if="Math.min(p.w, p.h) * s > 13"
        :x="X(p.x + p.w / 2)"
        :y="Y(p.y + p.h / 2) + 6"
        text-anchor="middle"
        class="label"
      >
        {{ p.mark }}{{ p.rotated ? " ↻" : "" }}{{ p.cut ? " ✓" : "" }}
      </text>
      <text
        v-if="p.standing !== 'right' && p.w * s > 84 && p.h * s > 40"
        :x="X(p.x + p.w / 2)"
        :y="Y(p.y + p.h / 2) + 24"
        text-anchor="middle"
        class="otherwise"
      >
        {{
          p.standing === "changed"
            ? "changed"
            : p.standing === "replaced"
              ? "laid out anew"
              : "not needed"
        }}
      </text>
    </g>
    <g v-for="c in cuts(X, Y)" :key="c.key" class="cut" :class="{ done: c.done }">
      <line :x1="c.from[0]" :x2="c.to[0]" :y1="c.from[1]" :y2="c.to[1]" />
      <g :transform="`translate(${c.tag[0]} ${c.tag[1]})`">
        <rect :x="-TAG / 2" :y="-TAG / 2" :width="TAG" :height="TAG" />
        <text text-anchor="middle" y="5">{{ c.n }}</text>
      </g>
    </g>
    <text :x="X(bounds[2])" :y="Y(0) + 17" text-anchor="end" class="soft">
      {{ say(sheet.w, store.system) }} × {{ say(sheet.h, store.system) }}, grain
      {{ sheet.grain === "h" ? "↕" : sheet.grain === "w" ? "↔" : "none" }}
    </text>
  </DrawingFrame>
</template>

<style scoped>
.sheet {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2;
}
.part {
  fill: var(--ply);
  stroke: var(--ply-edge);
  stroke-width: 1.5;
}
.part.cut {
  fill: var(--paper);
  stroke: var(--fine);
}
.part.changed {
  stroke: var(--stop);
  stroke-width: 2.5;
}
.part.gone {
  fill: none;
  stroke-dasharray: 3 3;
}
.otherwise {
  fill: var(--stop);
  font-size: 13px;
}
.label {
  font-weight: 800;
  font-size: 17px;
}
.offcut {
  fill: none;
  stroke: var(--hair-strong);
  stroke-dasharray: 5 4;
}
.cut line {
  stroke: var(--stop);
  stroke-width: 1.8;
}
.cut rect {
  fill: var(--paper);
  stroke: var(--stop);
  stroke-width: 1.3;
}
.cut text {
  fill: var(--stop);
  font-family: var(--mono);
  font-weight: 700;
  font-size: 12.5px;
}
.cut.done line,
.cut.done rect {
  stroke: var(--fine);
}
.cut.done text {
  fill: var(--fine);
}
</style>
