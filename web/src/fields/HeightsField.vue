<script setup lang="ts">
import { ref } from "vue";
import { refusal, Refused } from "@/api/client";
import { useProject } from "@/store/project";
import { readOut } from "@/units/text";
import { useTape } from "@/units/useTape";

/** A list of heights of the document: typed one by one, taken away one by one. */
const props = defineProps<{
  label: string;
  pointer: string;
  value: readonly number[] | null | undefined;
}>();
const store = useProject();
const typed = ref("");
const error = ref("");
const { result, read } = useTape(typed);

async function put(heights: number[]) {
  try {
    await store.edit([{ op: "add", path: props.pointer, value: heights }]);
    error.value = "";
    return true;
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    error.value = refusal(e.problem);
    return false;
  }
}
async function add() {
  const answer = await read();
  if (!answer || "error" in answer) {
    error.value = answer?.error.detail ?? "";
    return;
  }
  const heights = [...(props.value ?? []).filter((h) => h !== answer.mm), answer.mm];
  if (await put(heights.sort((a, b) => a - b))) typed.value = "";
}
</script>

<template>
  <div class="field">
    <span class="label">{{ label }}</span>
    <div class="row list">
      <button
        v-for="h in value ?? []"
        :key="h"
        type="button"
        class="height mono"
        :aria-label="`Take away ${h} mm`"
        @click="put((value ?? []).filter((o) => o !== h))"
      >
        {{ h }} ×
      </button>
      <input
        v-model="typed"
        class="mono"
        autocomplete="off"
        placeholder="300"
        :aria-label="`${label}: one more`"
        :aria-invalid="Boolean(error)"
        @keydown.enter.prevent="add"
      />
      <button type="button" class="height" :disabled="!typed.trim()" @click="add">add</button>
    </div>
    <span v-if="error" class="error" role="alert">{{ error }}</span>
    <span v-else class="soft">{{ readOut(result) }}</span>
  </div>
</template>

<style scoped>
.field {
  display: flex;
  flex-direction: column;
}
.list {
  flex-wrap: wrap;
  gap: 4px;
}
.field > .list > input {
  width: 72px;
}
.height {
  min-height: 36px;
  padding: 0 8px;
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
@media (pointer: coarse) {
  .height {
    min-height: var(--touch);
  }
}
.height:disabled {
  opacity: 0.5;
  cursor: default;
}
</style>
