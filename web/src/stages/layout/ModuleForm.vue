<script setup lang="ts">
import { computed, ref } from "vue";
import type { ModuleView } from "@/api/types";
import FormFields from "@/fields/FormFields.vue";
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
    <FormFields :fields="shown" />
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
.link {
  text-decoration: underline;
  padding: 6px 0;
}
</style>
