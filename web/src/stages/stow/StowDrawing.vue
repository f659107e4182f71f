<script setup lang="ts">
import { computed } from "vue";
import DrawingFrame from "@/drawing/DrawingFrame.vue";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";
import { useNarrow } from "@/shell/useNarrow";

/** Everything that stands under the deck, side by side to one scale, against the chosen height. */
const store = useProject();
const view = useView();
const narrow = useNarrow();
const GAP = 60;
/** Pixels that a letter takes, about, and between two names; and from one row of names to the next. */
const LETTER = 6.8;
const BETWEEN = 4;
const ROW = 16;

const items = computed(() => {
  const ladder = store.shown?.ladder;
  const gear = store.project?.gear ?? {};
  let x = 0;
  return Object.entries(gear).map(([id, g]) => {
    const seen = ladder?.items.find((i) => i.id === id);
    const w = Math.max(g.w ?? 200, 60);
    const box = { id, name: g.name, x, w, h: g.h ?? 0, seen, count: g.count ?? 1 };
    x += w + GAP;
    return box;
  });
});
const underside = computed(() => store.shown?.ladder?.chosen?.underside ?? null);
const bounds = computed<[number, number, number, number]>(() => {
  const last = items.value.at(-1);
  const tall = Math.max(120, underside.value?.value ?? 0, ...items.value.map((i) => i.h));
  return [0, 0, last ? last.x + last.w : 500, tall];
});

const named = (i: { name: string; count: number }) =>
  i.count > 1 ? `${i.name} ×${i.count}` : i.name;

/** In which row below the floor each name is written, so that no two lie over each other. */
function rows(X: (x: number) => number) {
  const ends: number[] = [];
  return items.value.map((i) => {
    const middle = X(i.x + i.w / 2);
    const half = (named(i).length * LETTER) / 2;
    const free = ends.findIndex((end) => end + BETWEEN <= middle - half);
    const row = free < 0 ? ends.length : free;
    ends[row] = middle + half;
    return row;
  });
}
</script>

<template>
  <DrawingFrame
    v-slot="{ X, Y, s }"
    :bounds="bounds"
    label="The things to stow, to scale, against the deck"
    :max-height="210"
    :pad="30"
    :below="narrow ? 2 * ROW : ROW"
  >
    <line :x1="X(0) - 20" :x2="X(bounds[2]) + 20" :y1="Y(0)" :y2="Y(0)" class="floor" />
    <g v-if="underside">
      <line
        :x1="X(0) - 20"
        :x2="X(bounds[2]) + 20"
        :y1="Y(underside.value)"
        :y2="Y(underside.value)"
        class="deck"
      />
      <text :x="X(0) - 20" :y="Y(underside.value) - 7" class="soft">
        deck underside {{ say(underside, store.system) }}
      </text>
    </g>
    <g v-for="(i, n) in items" :key="i.id">
      <rect
        :x="X(i.x)"
        :y="Y(i.h)"
        :width="i.w * s"
        :height="i.h * s"
        class="box"
        :class="{ over: i.seen?.fits === false, marked: view.marked === i.id, away: !i.seen }"
      />
      <text
        :x="X(i.x + i.w / 2)"
        :y="Y(0) + ROW * (1 + (rows(X)[n] ?? 0))"
        text-anchor="middle"
        class="soft"
      >
        {{ named(i) }}
      </text>
      <text
        v-if="i.seen"
        :x="X(i.x + i.w / 2)"
        :y="Y(i.h / 2) + 5"
        text-anchor="middle"
        class="figure"
      >
        {{ say(i.seen.needs, store.system) }}
      </text>
    </g>
  </DrawingFrame>
</template>

<style scoped>
.floor {
  stroke: var(--ink);
  stroke-width: 2.2;
}
.deck {
  stroke: var(--ply-edge);
  stroke-width: 3;
}
.box {
  fill: var(--gear);
  stroke: var(--steel);
  stroke-width: 1.5;
}
.box.over {
  stroke: var(--stop);
  stroke-dasharray: 5 4;
  stroke-width: 2;
}
.box.away {
  fill: none;
  stroke-dasharray: 2 3;
}
.box.marked {
  stroke-width: 4;
}
</style>
