<script setup lang="ts">
import { computed, nextTick, ref, watch } from "vue";
import { Refused } from "@/api/client";
import { useProject } from "@/store/project";
import { readOut } from "@/units/text";
import { useTape } from "@/units/useTape";

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
const error = ref("");
const editing = ref(false);
const probe = ref("");
const { result, read } = useTape(probe);

// What is stored, in the project's system.
const stored = computed(() =>
  props.value === null || props.value === undefined ? "" : `${props.value} mm`,
);
watch(
  [stored, () => store.system],
  () => {
    if (!editing.value) probe.value = stored.value;
  },
  { immediate: true },
);
watch([result, stored, () => store.system], () => {
  if (editing.value) return;
  const r = result.value;
  if (!stored.value || !r || "error" in r) text.value = "";
  else text.value = store.system === "in" ? `${r.nearest}"` : stored.value.replace(" mm", "");
});
watch(text, (now) => {
  if (editing.value) {
    probe.value = now;
    error.value = "";
  }
});

const told = computed(() => {
  const r = result.value;
  if (!r || "error" in r) return "";
  return editing.value ? readOut(r) : store.system === "in" ? `${r.mm} mm` : `${r.nearest}″`;
});

async function commit() {
  if (!editing.value) return;
  const typed = text.value.trim();
  const unchanged = !typed && !stored.value;
  if (unchanged) {
    editing.value = false;
    return;
  }
  if (!typed && props.empty !== undefined) {
    await write(null);
    return;
  }
  const answer = await read();
  if (!answer || "error" in answer) {
    error.value = answer?.error.detail ?? "Type a length.";
    return;
  }
  if (answer.mm === props.value) {
    editing.value = false;
    await nextTick();
    probe.value = stored.value;
    return;
  }
  await write(answer.mm);
}

async function write(value: number | null) {
  try {
    await store.edit([{ op: "add", path: props.pointer, value }]);
    error.value = "";
    editing.value = false;
    probe.value = stored.value;
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    error.value = `${e.problem.detail}${e.problem.allowed ? ` Allowed: ${e.problem.allowed}.` : ""}`;
  }
}

const id = computed(() => `f${props.pointer.replaceAll(/[^a-z0-9]+/gi, "-")}`);
</script>

<template>
  <div class="field">
    <label :for="id" :class="{ 'hidden-text': hideLabel }">{{ label }}</label>
    <input
      :id="id"
      v-model="text"
      class="mono"
      autocomplete="off"
      spellcheck="false"
      :placeholder="empty"
      :aria-invalid="Boolean(error)"
      :aria-describedby="`${id}-told`"
      @focus="editing = true"
      @blur="commit"
      @keydown.enter.prevent="commit"
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
  font-size: 16px;
  font-weight: 600;
}
input::placeholder {
  color: var(--ink-2);
  font-weight: 400;
  font-size: 13.5px;
}
input[aria-invalid="true"] {
  border-color: var(--stop);
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
@media (pointer: coarse) {
  input {
    height: var(--touch);
  }
}
</style>
