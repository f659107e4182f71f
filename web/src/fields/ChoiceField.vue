<script setup lang="ts">
import { computed, watch } from "vue";
import { useStored } from "./useStored";

/** One of a few values of the document. */
const props = defineProps<{
  label: string;
  pointer: string;
  value: string | number;
  options: readonly (readonly [string | number, string])[];
  hideLabel?: boolean;
}>();
const clear = () => (error.value = "");
const { error, put } = useStored(
  () => props.pointer,
  clear,
  () => false,
);
const chosen = computed({
  get: () => props.value,
  set: (value) => void put(value),
});
watch(() => props.value, clear);
/** Words longer than this are cut off in one column of a form. */
const LONG = 19;
const long = computed(() => props.options.some(([, words]) => words.length > LONG));
</script>

<template>
  <div class="field" :class="{ long }" :data-pointer="pointer">
    <span class="label" :class="{ 'hidden-text': hideLabel }">{{ label }}</span>
    <!-- An empty text is a choice like any other: "at the threshold". -->
    <el-select v-model="chosen" :aria-label="label" :empty-values="[null, undefined]">
      <el-option v-for="[key, words] in options" :key="key" :value="key" :label="words" />
    </el-select>
    <span v-if="error" class="error" role="alert">{{ error }}</span>
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
