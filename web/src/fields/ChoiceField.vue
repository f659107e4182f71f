<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { refusal, Refused } from "@/api/client";
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
  set: (value) => void put(value),
});
const error = ref("");
async function put(value: string | number) {
  try {
    await store.put(props.pointer, value);
    error.value = "";
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    error.value = refusal(e.problem);
  }
}
watch([() => props.value, () => store.rewound], () => (error.value = ""));
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
