<script setup lang="ts">
import { ref } from "vue";
import type { Ladder } from "@/api/types";
import { useWidth } from "@/drawing/useWidth";
import LadderDeck from "./LadderDeck.vue";
import LadderPeople from "./LadderPeople.vue";
import LadderRungs from "./LadderRungs.vue";
import LadderTape from "./LadderTape.vue";
import LadderThings from "./LadderThings.vue";
import { useScale } from "./scale";

/** The ladder: a tape from floor to roof, gear standing, people hanging from the roof, the deck
 * between them to be dragged. */
const props = defineProps<{ ladder: Ladder; previewing: boolean }>();
const emit = defineEmits<{ preview: [number]; choose: [number]; leave: [] }>();

const box = ref<HTMLElement | null>(null);
const at = useScale(useWidth(box, 740), () => props.ladder.floor_to_roof.value);
const topOf = () => box.value?.getBoundingClientRect().top ?? 0;
</script>

<template>
  <div ref="box" class="ladder">
    <svg
      :width="at.width"
      :height="at.height"
      :viewBox="`0 0 ${at.width} ${at.height}`"
      role="group"
      aria-label="Height ladder"
    >
      <LadderTape :ladder="ladder" :at="at" />
      <LadderThings :ladder="ladder" :at="at" />
      <LadderPeople :ladder="ladder" :at="at" />
      <LadderDeck
        v-if="ladder.chosen"
        :ladder="ladder"
        :at="at"
        :top-of="topOf"
        @preview="emit('preview', $event)"
        @leave="emit('leave')"
        @choose="emit('choose', $event)"
      />
      <LadderRungs :ladder="ladder" :at="at" @choose="emit('choose', $event)" />
    </svg>
  </div>
</template>

<style scoped>
.ladder {
  width: 100%;
  overflow: hidden;
  touch-action: pan-y;
}
svg {
  display: block;
  font-family: var(--font);
  font-size: 14px;
  fill: var(--ink);
}
</style>
