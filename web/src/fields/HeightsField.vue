<script setup lang="ts">
import { ref, watch } from "vue";
import { api } from "@/api/client";
import { useProject } from "@/store/project";
import { readOut, show } from "@/units/text";
import { useTape } from "@/units/useTape";
import { useStored } from "./useStored";

/** A list of heights of the document: typed one by one, taken away one by one. */
const props = defineProps<{
  label: string;
  pointer: string;
  value: readonly number[] | null | undefined;
}>();
const store = useProject();
const typed = ref("");
const { result, read } = useTape(typed);

/** The heights that are stored, as the project's system writes them. */
const words = ref<string[]>([]);
watch(
  [() => props.value, () => store.system],
  async () => {
    const of = props.value;
    const mm = of ?? [];
    const answer = mm.length
      ? await api.tape(
          mm.map((h) => `${h} mm`),
          "mm",
          store.project?.units?.denominator ?? 16,
        )
      : { results: [] };
    // A slower answer says nothing of what is stored now.
    if (of !== props.value) return;
    words.value = answer.results.map((r, i) =>
      "error" in r ? `${mm[i]} mm` : store.system === "in" ? `${r.nearest}″` : show(r.mm),
    );
  },
  { immediate: true },
);

const { error, escape, put } = useStored(
  () => props.pointer,
  clear,
  () => Boolean(typed.value),
);
function clear() {
  typed.value = "";
  error.value = "";
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
  <div class="field" :data-pointer="pointer">
    <span class="label">{{ label }}</span>
    <div class="row list">
      <button
        v-for="(h, i) in value ?? []"
        :key="h"
        type="button"
        class="height mono"
        :aria-label="`Take away ${words[i] ?? h}${store.system === 'in' ? '' : ' mm'}`"
        @click="put((value ?? []).filter((o) => o !== h))"
      >
        {{ words[i] ?? "" }} ×
      </button>
      <input
        v-model="typed"
        class="mono"
        autocomplete="off"
        :placeholder="store.system === 'in' ? '12' : '300'"
        :aria-label="`${label}: one more`"
        :aria-invalid="Boolean(error)"
        @keydown.enter.prevent="add"
        @keydown.esc="escape"
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
