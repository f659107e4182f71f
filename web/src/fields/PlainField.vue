<script setup lang="ts">
import { computed, ref, watch } from "vue";
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
const text = ref("");
const stored = computed(() =>
  props.value === null || props.value === undefined ? "" : String(props.value),
);
const { error, committing, escape, put, once } = useStored(
  () => props.pointer,
  showStored,
  () => text.value !== stored.value,
);
function showStored() {
  text.value = stored.value;
  error.value = "";
}
watch(stored, showStored, { immediate: true });
const commit = () => once(take);

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
  await put(value);
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
