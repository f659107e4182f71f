<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { Refused } from "@/api/client";
import { useProject } from "@/store/project";

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
watch(
  () => props.value,
  (v) => (text.value = v === null || v === undefined ? "" : String(v)),
  { immediate: true },
);

async function commit() {
  const typed = text.value.trim().replace(",", ".");
  const before = props.value === null || props.value === undefined ? "" : String(props.value);
  if (text.value.trim() === before) {
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
    await store.edit([{ op: "add", path: props.pointer, value }]);
    error.value = "";
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    error.value = `${e.problem.detail}${e.problem.allowed ? ` Allowed: ${e.problem.allowed}.` : ""}`;
  }
}

const id = computed(() => `p${props.pointer.replaceAll(/[^a-z0-9]+/gi, "-")}`);
</script>

<template>
  <div class="field" :class="kind">
    <label :for="id" :class="{ 'hidden-text': hideLabel }">
      {{ label }}<template v-if="unit"> ({{ unit }})</template>
    </label>
    <input
      :id="id"
      v-model="text"
      autocomplete="off"
      :inputmode="kind === 'number' ? 'decimal' : undefined"
      :placeholder="empty"
      :aria-invalid="Boolean(error)"
      @blur="commit"
      @keydown.enter.prevent="commit"
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
label {
  font-size: 13.5px;
  color: var(--ink-2);
}
input {
  width: 100%;
  height: 36px;
  padding: 0 8px;
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
  background: var(--paper);
  color: var(--ink);
  font: 600 16px var(--font);
}
.number input {
  font-family: var(--mono);
}
input::placeholder {
  color: var(--ink-2);
  font-weight: 400;
  font-size: 13.5px;
}
input[aria-invalid="true"] {
  border-color: var(--stop);
}
@media (pointer: coarse) {
  input {
    height: var(--touch);
  }
}
</style>
