<script setup lang="ts">
import type { Ladder } from "@/api/types";
import { useProject } from "@/store/project";
import { say } from "@/units/text";
import type { Scale } from "./scale";
import { useDeckDrag } from "./useDeckDrag";

/** The deck with its mattress, to be dragged or moved by the arrow keys. */
const props = defineProps<{
  ladder: Ladder;
  at: Scale;
  /** Where the drawing begins on the screen. */
  topOf: () => number;
}>();
const emit = defineEmits<{ preview: [number]; choose: [number]; leave: [] }>();
const store = useProject();

const { grab, drag, drop, key } = useDeckDrag({
  ladder: () => props.ladder,
  heightAt: (clientY) => (props.at.floorY - (clientY - props.topOf())) / props.at.s,
  scale: () => props.at.s,
  step: () => (store.system === "in" ? 25.4 / 16 : 1),
  preview: (u) => emit("preview", u),
  leave: () => emit("leave"),
  choose: (u) => emit("choose", u),
});
</script>

<template>
  <g>
    <g
      v-if="ladder.chosen"
      class="deck"
      tabindex="0"
      role="slider"
      aria-label="Height of the deck's underside"
      aria-orientation="vertical"
      :aria-valuemin="0"
      :aria-valuemax="Math.floor(at.roof)"
      :aria-valuenow="Math.round(ladder.chosen.underside.value)"
      :aria-valuetext="say(ladder.chosen.underside, store.system, true)"
      @pointerdown="grab"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="drop"
      @keydown="key"
    >
      <rect
        :x="at.left"
        :y="at.Y(ladder.chosen.sleep_surface.value)"
        :width="at.right - at.left"
        :height="
          Math.max(
            at.Y(ladder.chosen.underside.value + ladder.deck.value) -
              at.Y(ladder.chosen.sleep_surface.value),
            0,
          )
        "
        class="mattress"
      />
      <rect
        :x="at.left"
        :y="at.Y(ladder.chosen.underside.value + ladder.deck.value)"
        :width="at.right - at.left"
        :height="Math.max(ladder.deck.value * at.s, 5)"
        class="ply"
      />
      <path
        :d="`M${at.left} ${at.Y(ladder.chosen.underside.value + ladder.deck.value / 2)}H${at.right}`"
        class="ply-line"
      />
      <rect
        :x="at.left"
        :y="at.Y(ladder.chosen.sleep_surface.value) - 8"
        :width="at.right - at.left"
        :height="at.Y(ladder.chosen.underside.value) - at.Y(ladder.chosen.sleep_surface.value) + 20"
        class="grip"
      />
      <text
        v-if="!at.narrow"
        :x="at.right - 8"
        :y="at.Y(ladder.chosen.underside.value + ladder.deck.value) - 6"
        text-anchor="end"
        class="soft"
      >
        mattress {{ say(ladder.mattress, store.system) }}, sat on
        {{ say(ladder.sat_on, store.system) }}
      </text>
    </g>
  </g>
</template>

<style scoped>
.deck {
  cursor: ns-resize;
  touch-action: none;
}
.deck:focus-visible .grip {
  stroke: var(--ink);
  stroke-width: 2.5;
}
.deck:focus {
  outline: none;
}
.mattress {
  fill: var(--paper);
  fill-opacity: 0.72;
  stroke: var(--ink-2);
  stroke-width: 1.2;
  rx: 7px;
}
.ply {
  fill: var(--ply);
  stroke: var(--ply-edge);
  stroke-width: 1.5;
}
.ply-line {
  stroke: var(--ply-edge);
  stroke-width: 1;
}
.grip {
  fill: transparent;
}
</style>
