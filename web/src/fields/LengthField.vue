<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from "vue";
import { useProject } from "@/store/project";
import { readOut, show } from "@/units/text";
import { useTape } from "@/units/useTape";
import { useStored } from "./useStored";
import { selectWhole } from "./whole";

/** A length of the document, typed in the tape language, shown in both systems. */
const props = defineProps<{
  label: string;
  pointer: string;
  value: number | null | undefined;
  /** What an empty field means, if it may be empty. */
  empty?: string;
  hideLabel?: boolean;
}>();
const store = useProject();
const text = ref("");
const box = useTemplateRef("box");
/** The person has typed something that is not stored yet. */
const dirty = ref(false);
/** What is stored, as it stands in the field. */
let written = "";
const probe = ref("");
const { result, read } = useTape(probe);

// What is stored, as the tape language writes it.
const stored = computed(() =>
  props.value === null || props.value === undefined
    ? ""
    : // Sixteenths in millimetres have no end: no digit past a thousandth is anybody's.
      `${Number(props.value.toFixed(3))} mm`,
);

const { error, committing, escape, put, once } = useStored(
  () => props.pointer,
  () => void showStored(),
  () => dirty.value,
);
async function showStored() {
  dirty.value = false;
  error.value = "";
  probe.value = stored.value;
  const r = stored.value ? await read() : null;
  if (dirty.value) return;
  if (!r || "error" in r) text.value = "";
  else text.value = store.system === "in" ? `${r.nearest}"` : stored.value.replace(" mm", "");
  written = text.value;
  await selectWhole(box.value);
}
watch(
  [stored, () => store.system],
  () => {
    if (!dirty.value) void showStored();
  },
  { immediate: true },
);

function typing() {
  dirty.value = true;
  error.value = "";
  probe.value = text.value;
}

const told = computed(() => {
  const r = result.value;
  if (!r || "error" in r) return "";
  return dirty.value ? readOut(r) : store.system === "in" ? `${show(r.mm)} mm` : `${r.nearest}″`;
});

async function commit() {
  if (dirty.value) await once(take);
}

async function take() {
  if (!text.value.trim()) {
    if (props.empty !== undefined && stored.value) await write(null);
    else await showStored();
    return;
  }
  const answer = await read();
  if (!answer || "error" in answer) {
    error.value = answer?.error.detail ?? "Type a length.";
    return;
  }
  // Typed again as it is shown, to the nearest mark: nothing is meant to change.
  if (answer.mm === props.value || text.value.trim() === written) await showStored();
  else await write(answer.mm);
}

async function write(value: number | null) {
  if (!(await put(value))) return;
  await nextTick();
  await showStored();
}

const id = computed(() => `f${props.pointer.replaceAll(/[^a-z0-9]+/gi, "-")}`);
</script>

<template>
  <div class="field" :data-pointer="pointer" :aria-busy="committing">
    <label :for="id" :class="{ 'hidden-text': hideLabel }">{{ label }}</label>
    <input
      :id="id"
      ref="box"
      v-model="text"
      class="mono"
      autocomplete="off"
      spellcheck="false"
      :placeholder="empty"
      :aria-invalid="Boolean(error)"
      :aria-describedby="`${id}-told`"
      @input="typing"
      @blur="commit"
      @keydown.enter.prevent="commit"
      @keydown.esc="escape"
    />
    <span :id="`${id}-told`" class="told mono">
      <span v-if="error" class="error" role="alert">{{ error }}</span>
      <template v-else>{{ told }}</template>
    </span>
  </div>
</template>

<style scoped>
.field {
  display: flex;
  flex-direction: column;
  min-width: 92px;
}
.told {
  font-size: 12.5px;
  color: var(--ink-2);
  min-height: 18px;
  white-space: pre-wrap;
}
.error {
  font-family: var(--font);
  font-size: 13px;
}
</style>
