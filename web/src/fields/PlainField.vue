<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { refusal, Refused } from "@/api/client";
import { useProject } from "@/store/project";
import { useStored } from "./useStored";

/** A text or a plain number of the document. */
const props = defineProps<{
  label: string;
  pointer: string;
  value: string | number | null | undefined;
  kind: "text" | "number";
  /** Unit shown behind a number. */
  unit?: string;
  empty?: string;
  hideLabel?: boolean;
}>();
const store = useProject();
const text = ref("");
const error = ref("");
const stored = computed(() =>
  props.value === null || props.value === undefined ? "" : String(props.value),
);
function showStored() {
  text.value = stored.value;
  error.value = "";
}
watch(stored, showStored, { immediate: true });
const escape = useStored(showStored, () => text.value !== stored.value || Boolean(error.value));

const committing = ref(false);
async function commit() {
  if (committing.value) return;
  committing.value = true;
  try {
    await take();
  } finally {
    committing.value = false;
  }
}

async function take() {
  const typed = text.value.trim().replace(",", ".");
  if (text.value.trim() === stored.value) {
    error.value = "";
    return;
  }
  let value: string | number | null = text.value.trim();
  if (props.kind === "number") {
    if (!typed) value = null;
    else if (Number.isFinite(Number(typed))) value = Number(typed);
    else {
      error.value = "This is not a number.";
      return;
    }
    if (value === null && props.empty === undefined) {
      error.value = "A number is needed.";
      return;
    }
  }
  try {
    await store.put(props.pointer, value);
    error.value = "";
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    error.value = refusal(e.problem);
  }
}

const id = computed(() => `p${props.pointer.replaceAll(/[^a-z0-9]+/gi, "-")}`);
</script>

<template>
  <div class="field" :class="kind" :data-pointer="pointer" :aria-busy="committing">
    <label :for="id" :class="{ 'hidden-text': hideLabel }">
      {{ label }}<template v-if="unit"> ({{ unit }})</template>
    </label>
    <input
      :id="id"
      v-model="text"
      :class="{ mono: kind === 'number' }"
      autocomplete="off"
      :inputmode="kind === 'number' ? 'decimal' : undefined"
      :placeholder="empty"
      :aria-invalid="Boolean(error)"
      @blur="commit"
      @keydown.enter.prevent="commit"
      @keydown.esc="escape"
    />
    <span v-if="error" class="error" role="alert">{{ error }}</span>
  </div>
</template>

<style scoped>
.field {
  display: flex;
  flex-direction: column;
}
.number {
  width: 88px;
}
</style>
