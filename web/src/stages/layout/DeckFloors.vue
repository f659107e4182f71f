<script setup lang="ts">
import { computed } from "vue";
import EntryList from "@/fields/EntryList.vue";
import type { Column } from "@/fields/columns";
import LengthField from "@/fields/LengthField.vue";
import PlainField from "@/fields/PlainField.vue";
import { useProject } from "@/store/project";
import { escapePointer, freshId } from "@/units/text";

/** What only a deck has: floors of another height under it, how much it may sag, hatches where the person wants them. */
const props = defineProps<{ id: string }>();
const store = useProject();
const at = computed(() => `/modules/${escapePointer(props.id)}/choices`);

interface HatchPlace {
  name: string;
  along: number;
  across: number;
  length: number;
  width: number;
  opens: string;
}
interface Choices {
  hatches?: string;
  hatch_places?: Record<string, HatchPlace>;
  leg_regions?: Record<string, { from: number; to: number; floor: number }>;
  limits?: { span_over?: number; knee?: number };
}
const choices = computed(
  () => (store.project?.modules?.[props.id]?.choices ?? {}) as unknown as Choices,
);

const HATCHES: Column[] = [
  { field: "name", label: "Name", as: "text" },
  { field: "along", label: "Rear edge from the threshold", as: "length" },
  { field: "across", label: "Middle left of the centre line", as: "length" },
  { field: "length", label: "Length of the hole", as: "length" },
  { field: "width", label: "Width of the hole", as: "length" },
  {
    field: "opens",
    label: "Opens",
    as: "choice",
    options: [
      ["out", "lifts out"],
      ["front", "hinged at its front edge"],
      ["rear", "hinged at its rear edge"],
      ["left", "hinged at its left edge"],
      ["right", "hinged at its right edge"],
    ],
  },
];
const HATCH = { name: "", along: 300, across: 0, length: 300, width: 400, opens: "out" };

function add() {
  const value = { from: 0, to: 500, floor: 0 };
  void store.change([{ op: "add", path: `${at.value}/leg_regions/${freshId("f")}`, value }]);
}
function remove(key: string) {
  void store.change([{ op: "remove", path: `${at.value}/leg_regions/${escapePointer(key)}` }]);
}
</script>

<template>
  <template v-if="choices.hatches === 'placed'">
    <h3>Hatches</h3>
    <p class="soft">
      Each hole keeps a rim within one board and stays clear of the supports. The checks say where
      one has no room, and where it has.
    </p>
    <EntryList
      :list="`${at}/hatch_places`"
      :entries="choices.hatch_places"
      :columns="HATCHES"
      add="Add a hatch"
      :fresh="HATCH"
    />
  </template>
  <div class="row limits">
    <PlainField
      label="Span over sag, at least"
      kind="number"
      :pointer="`${at}/limits/span_over`"
      :value="choices.limits?.span_over"
    />
    <LengthField
      label="Sag under a knee, at most"
      :pointer="`${at}/limits/knee`"
      :value="choices.limits?.knee"
    />
  </div>
  <h3>Floors of another height</h3>
  <p class="soft">
    Where legs stand on something else than the surveyed floor: a boot floor, a folded seat.
  </p>
  <div v-for="(r, key) in choices.leg_regions" :key="key" class="row">
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
    <el-button @click="remove(String(key))">Remove</el-button>
  </div>
  <el-button @click="add">Add a floor</el-button>
</template>

<style scoped>
.limits {
  align-items: flex-start;
  margin-bottom: 14px;
}
.limits :deep(.number) {
  width: 222px;
}
</style>
