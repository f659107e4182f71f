<script setup lang="ts">
import { computed } from "vue";
import LengthField from "@/fields/LengthField.vue";
import PlainField from "@/fields/PlainField.vue";
import { useProject } from "@/store/project";
import { escapePointer, freshId } from "@/units/text";

/** What only a deck has: floors of another height under it, and how much it may sag. */
const props = defineProps<{ id: string }>();
const store = useProject();
const at = computed(() => `/modules/${escapePointer(props.id)}/choices`);

interface Choices {
  leg_regions?: Record<string, { from: number; to: number; floor: number }>;
  limits?: { span_over?: number; knee?: number };
}
const choices = computed(
  () => (store.project?.modules?.[props.id]?.choices ?? {}) as unknown as Choices,
);

function add() {
  const value = { from: 0, to: 500, floor: 0 };
  void store.change([{ op: "add", path: `${at.value}/leg_regions/${freshId("f")}`, value }]);
}
function remove(key: string) {
  void store.change([{ op: "remove", path: `${at.value}/leg_regions/${escapePointer(key)}` }]);
}
</script>

<template>
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
