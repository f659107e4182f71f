<script setup lang="ts">
import { computed } from "vue";
import type { Field } from "@/api/types";
import { useProject } from "@/store/project";
import ChoiceField from "./ChoiceField.vue";
import LengthField from "./LengthField.vue";
import MassField from "./MassField.vue";
import PlainField from "./PlainField.vue";

/** Choices as the core asks for them. */
defineProps<{ fields: Field[] }>();
const store = useProject();
const materials = computed(() => store.shown?.materials ?? []);
/** Sheets, and bars where supports may be made of them. */
const made = (bars: boolean) =>
  materials.value.filter((m) => bars || !m.sold).map((m) => [m.id, m.material.name] as const);
const options = (f: Field) =>
  f.value.kind === "choice" ? f.value.options.map((o) => [o[0]!, o[1]!] as const) : [];
</script>

<template>
  <div class="grid">
    <template v-for="f in fields" :key="f.pointer">
      <LengthField
        v-if="f.value.kind === 'length'"
        :label="f.label"
        :pointer="f.pointer"
        :value="f.value.now?.value"
        :empty="f.empty ?? undefined"
        :title="f.why"
      />
      <PlainField
        v-else-if="f.value.kind === 'count' || f.value.kind === 'text'"
        :kind="f.value.kind === 'count' ? 'number' : 'text'"
        :label="f.label"
        :pointer="f.pointer"
        :value="f.value.now"
        :empty="f.empty ?? undefined"
        :title="f.why"
      />
      <MassField
        v-else-if="f.value.kind === 'mass'"
        :label="f.label"
        :pointer="f.pointer"
        :value="f.value.now"
        :empty="f.empty ?? '0'"
        :title="f.why"
      />
      <ChoiceField
        v-else-if="f.value.kind === 'material'"
        :label="f.label"
        :pointer="f.pointer"
        :value="f.value.now"
        :options="made(f.value.bars)"
        :title="f.why"
      />
      <ChoiceField
        v-else
        :label="f.label"
        :pointer="f.pointer"
        :value="f.value.now"
        :options="options(f)"
        :title="f.why"
      />
    </template>
  </div>
</template>

<style scoped>
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
/* Where there are two columns. */
@media (min-width: 380px) {
  .grid :deep(.field.long) {
    grid-column: span 2;
  }
}
</style>
