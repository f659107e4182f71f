<script setup lang="ts">
import { computed, ref } from "vue";
import type { Field, ModuleView } from "@/api/types";
import ChoiceField from "@/fields/ChoiceField.vue";
import LengthField from "@/fields/LengthField.vue";
import PlainField from "@/fields/PlainField.vue";
import { useProject } from "@/store/project";
import { escapePointer } from "@/units/text";
import DeckFloors from "./DeckFloors.vue";

/** The choices of the picked piece, as its kind asks for them: no kind is known here. */
const props = defineProps<{ module: ModuleView }>();
const emit = defineEmits<{ removed: [] }>();
const store = useProject();
/** So many choices are in sight, the rest on demand. */
const FIRST = 8;
const more = ref(false);
const shown = computed(() => (more.value ? props.module.form : props.module.form.slice(0, FIRST)));
const at = computed(() => `/modules/${escapePointer(props.module.id)}`);
const materials = computed(() =>
  (store.shown?.materials ?? []).map((m) => [m.id, m.material.name] as const),
);
const options = (f: Field) =>
  f.value.kind === "choice" ? f.value.options.map((o) => [o[0]!, o[1]!] as const) : [];

async function remove() {
  if (await store.change([{ op: "remove", path: at.value }])) emit("removed");
}
</script>

<template>
  <section class="choices" :aria-label="`Choices about the ${module.name}`">
    <div class="row spread">
      <PlainField
        label="Called"
        kind="text"
        :pointer="`${at}/name`"
        :value="store.project?.modules?.[module.id]?.name || module.name"
      />
      <el-button :aria-label="`Remove ${module.name}`" @click="remove">Remove</el-button>
    </div>
    <div class="grid">
      <template v-for="f in shown" :key="f.pointer">
        <LengthField
          v-if="f.value.kind === 'length'"
          :label="f.label"
          :pointer="f.pointer"
          :value="f.value.now?.value"
          :empty="f.empty ?? undefined"
          :title="f.why"
        />
        <PlainField
          v-else-if="f.value.kind === 'count'"
          kind="number"
          :label="f.label"
          :pointer="f.pointer"
          :value="f.value.now"
          :empty="f.empty ?? undefined"
          :title="f.why"
        />
        <ChoiceField
          v-else-if="f.value.kind === 'material'"
          :label="f.label"
          :pointer="f.pointer"
          :value="f.value.now"
          :options="materials"
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
    <button
      v-if="module.form.length > FIRST"
      type="button"
      class="plain link"
      :aria-expanded="more"
      @click="more = !more"
    >
      {{ more ? "Fewer" : "More" }} choices
    </button>
    <DeckFloors v-if="more && module.kind === 'deck'" :id="module.id" />
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
