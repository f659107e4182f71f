<script setup lang="ts">
import { computed } from "vue";
import { useProject } from "@/store/project";

/** One of a few values of the document. */
const props = defineProps<{
  label: string;
  pointer: string;
  value: string | number;
  options: readonly (readonly [string | number, string])[];
  hideLabel?: boolean;
}>();
const store = useProject();
const chosen = computed({
  get: () => props.value,
  set: (value) => void store.change([{ op: "add", path: props.pointer, value }]),
});
/** Words longer than this are cut off in one column of a form. */
const LONG = 19;
const long = computed(() => props.options.some(([, words]) => words.length > LONG));
</script>

<template>
  <div class="field" :class="{ long }">
    <span class="label" :class="{ 'hidden-text': hideLabel }">{{ label }}</span>
    <!-- An empty text is a choice like any other: "at the threshold". -->
    <el-select v-model="chosen" :aria-label="label" :empty-values="[null, undefined]">
      <el-option v-for="[key, words] in options" :key="key" :value="key" :label="words" />
    </el-select>
  </div>
</template>

<style scoped>
.field {
  display: flex;
  flex-direction: column;
  min-width: 150px;
}
.field :deep(.el-select__wrapper) {
  min-height: 36px;
}
</style>
