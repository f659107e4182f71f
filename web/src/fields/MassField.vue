<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from "vue";
import { api, refusal, Refused } from "@/api/client";
import { useProject } from "@/store/project";
import { useStored } from "./useStored";
import { selectWhole } from "./whole";

/** A mass of the document, in kilograms there; typed and shown in the project's system. */
const props = defineProps<{
  label: string;
  pointer: string;
  value: number | null | undefined;
  /** What an empty field means. */
  empty: string;
}>();
const store = useProject();
const text = ref("");
const box = useTemplateRef("box");
const dirty = ref(false);

const { error, committing, escape, put, once } = useStored(
  () => props.pointer,
  () => void showStored(),
  () => dirty.value,
);
/** Puts what is stored into the field, as the project's system says it. */
async function showStored() {
  dirty.value = false;
  error.value = "";
  const kg = props.value;
  if (kg === null || kg === undefined) {
    text.value = "";
    return;
  }
  const says = await inWords(`${kg} kg`);
  if (dirty.value || !says || props.value !== kg) return;
  text.value = says.says;
  await selectWhole(box.value);
}
watch([() => props.value, () => store.system], () => dirty.value || void showStored(), {
  immediate: true,
});

async function inWords(entry: string) {
  try {
    return await api.mass(entry, store.system);
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    error.value = refusal(e.problem);
    return null;
  }
}

function typing() {
  dirty.value = true;
  error.value = "";
}

async function commit() {
  if (dirty.value) await once(take);
}

async function take() {
  dirty.value = false;
  const read = text.value.trim() ? await inWords(text.value) : { kg: null };
  if (!read) {
    dirty.value = true;
    return;
  }
  if (read.kg === (props.value ?? null) || (await put(read.kg))) await showStored();
  else dirty.value = true;
}

const id = computed(() => `m${props.pointer.replaceAll(/[^a-z0-9]+/gi, "-")}`);
</script>

<template>
  <div class="field mass" :data-pointer="pointer" :aria-busy="committing">
    <label :for="id">{{ label }}</label>
    <input
      :id="id"
      ref="box"
      v-model="text"
      class="mono"
      autocomplete="off"
      spellcheck="false"
      :placeholder="empty"
      :aria-invalid="Boolean(error)"
      @input="typing"
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
.error {
  font-size: 13px;
}
</style>
