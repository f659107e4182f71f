<script setup lang="ts">
import { computed, ref } from "vue";
import type { Deck } from "@/api/types";
import ChoiceField from "@/fields/ChoiceField.vue";
import LengthField from "@/fields/LengthField.vue";
import PlainField from "@/fields/PlainField.vue";
import { useProject } from "@/store/project";
import { escapePointer, freshId } from "@/units/text";

/** The choices about the deck, each beside what it changes. */
const props = defineProps<{ id: string; deck: Deck }>();
const store = useProject();
const at = computed(() => `/modules/${escapePointer(props.id)}`);
const more = ref(false);

const MATERIALS = computed(() =>
  (store.shown?.materials ?? []).map((m) => [m.id, m.material.name] as const),
);
const TOPS = [
  ["solid", "solid, with vent holes"],
  ["slats", "slats (where the mattress stays on)"],
] as const;
const MANNERS = [
  ["frames", "ply frames on edge"],
  ["legs", "rails on legs"],
  ["ledgers", "ledgers on the walls"],
] as const;
const SPLITS = [
  ["auto", "as sheet and door allow"],
  ["whole", "one piece"],
  ["lengthwise", "in two, along"],
  ["across", "in two, across"],
  ["quarters", "in four"],
] as const;

function addRegion() {
  const value = { from: 0, to: 500, floor: 0 };
  void store.change([{ op: "add", path: `${at.value}/leg_regions/${freshId("f")}`, value }]);
}
function removeRegion(key: string) {
  void store.change([{ op: "remove", path: `${at.value}/leg_regions/${escapePointer(key)}` }]);
}
</script>

<template>
  <section class="choices" aria-label="Choices about the deck">
    <h3>Choices</h3>
    <div class="grid">
      <ChoiceField
        label="Board"
        :pointer="`${at}/material`"
        :value="deck.material ?? ''"
        :options="MATERIALS"
      />
      <LengthField label="Thickness" :pointer="`${at}/thickness`" :value="deck.thickness" />
      <ChoiceField
        label="Top"
        :pointer="`${at}/top`"
        :value="deck.top ?? 'solid'"
        :options="TOPS"
      />
      <ChoiceField
        label="Carried by"
        :pointer="`${at}/supports/manner`"
        :value="deck.supports?.manner ?? 'frames'"
        :options="MANNERS"
      />
      <PlainField
        label="Supports"
        kind="number"
        :pointer="`${at}/supports/lines`"
        :value="deck.supports?.lines"
        empty="by sag"
      />
      <ChoiceField
        label="Parted"
        :pointer="`${at}/split`"
        :value="deck.split ?? 'auto'"
        :options="SPLITS"
      />
      <LengthField
        label="Clearance"
        :pointer="`${at}/clearance`"
        :value="deck.clearance"
        empty="from readings"
      />
      <LengthField label="Finish on a face" :pointer="`${at}/finish`" :value="deck.finish" />
    </div>
    <button type="button" class="plain link" :aria-expanded="more" @click="more = !more">
      {{ more ? "Fewer" : "More" }} choices
    </button>
    <div v-if="more" class="grid">
      <LengthField label="Begins at" :pointer="`${at}/from`" :value="deck.from" empty="threshold" />
      <LengthField label="Ends at" :pointer="`${at}/to`" :value="deck.to" empty="front end" />
      <LengthField
        label="Relief radius"
        :pointer="`${at}/internal_radius`"
        :value="deck.internal_radius"
      />
      <LengthField
        label="Support board"
        :pointer="`${at}/supports/thickness`"
        :value="deck.supports?.thickness"
      />
      <LengthField
        v-if="deck.top === 'slats'"
        label="Slat width"
        :pointer="`${at}/slat_width`"
        :value="deck.slat_width"
      />
      <LengthField
        v-if="deck.top === 'slats'"
        label="Gap"
        :pointer="`${at}/slat_gap`"
        :value="deck.slat_gap"
      />
      <PlainField
        label="Span over sag, at least"
        kind="number"
        :pointer="`${at}/limits/span_over`"
        :value="deck.limits?.span_over"
      />
      <LengthField
        label="Sag under a knee, at most"
        :pointer="`${at}/limits/knee`"
        :value="deck.limits?.knee"
      />
    </div>
    <template v-if="more">
      <h3>Floors of another height</h3>
      <p class="soft">
        Where legs stand on something else than the surveyed floor: a boot floor, a folded seat.
      </p>
      <div v-for="(r, key) in deck.leg_regions" :key="key" class="row">
        <LengthField
          label="From"
          :pointer="`${at}/leg_regions/${escapePointer(String(key))}/from`"
          :value="r.from"
        />
        <LengthField
          label="To"
          :pointer="`${at}/leg_regions/${escapePointer(String(key))}/to`"
          :value="r.to"
        />
        <LengthField
          label="Height"
          :pointer="`${at}/leg_regions/${escapePointer(String(key))}/floor`"
          :value="r.floor"
        />
        <el-button @click="removeRegion(String(key))">Remove</el-button>
      </div>
      <el-button @click="addRegion">Add a floor</el-button>
    </template>
  </section>
</template>

<style scoped>
.choices {
  border-top: 1.5px solid var(--hair-strong);
  padding-top: 10px;
  margin-top: 6px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(158px, 1fr));
  gap: 8px 14px;
  margin: 8px 0;
  align-items: start;
}
.grid :deep(.number) {
  width: auto;
}
.link {
  text-decoration: underline;
  padding: 6px 0;
}
</style>
