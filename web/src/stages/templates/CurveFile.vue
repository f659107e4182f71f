<script setup lang="ts">
import { ref } from "vue";
import { api, Refused } from "@/api/client";
import type { CurveFile } from "@/api/types";
import { useProject } from "@/store/project";
import CurveList from "./CurveList.vue";

/** Curves out of a file of another program. */
const emit = defineEmits<{ taken: [string] }>();
const store = useProject();
const input = ref<HTMLInputElement | null>(null);
const file = ref<File | null>(null);
const found = ref<CurveFile | null>(null);
const error = ref("");
const UNITS = ["mm", "cm", "m", "in", "ft", "px"] as const;
async function look(unit: string) {
  const own = file.value;
  if (!own) return;
  error.value = "";
  try {
    const answer = await api.curves(store.id, own, unit);
    // The person may have chosen another file meanwhile.
    if (file.value === own) found.value = answer;
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    found.value = null;
    error.value = e.problem.detail;
  }
}
function choose(e: Event) {
  file.value = (e.target as HTMLInputElement).files?.[0] ?? null;
  found.value = null;
  void look("");
  // The same file can be chosen again.
  if (input.value) input.value.value = "";
}
function taken(id: string) {
  found.value = null;
  emit("taken", id);
}
</script>

<template>
  <div class="file">
    <label class="choose"
      >A curve from a file (SVG, DXF, table)
      <input ref="input" type="file" accept=".svg,.dxf,.csv,.txt" @change="choose" />
    </label>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-if="found">
      <p>
        Read in
        <select
          aria-label="Unit of the file"
          :value="found.unit"
          @change="look(($event.target as HTMLSelectElement).value)"
        >
          <option v-for="u in UNITS" :key="u">{{ u }}</option>
        </select>
        : {{ found.why }}.
        <b v-if="!found.sure">Are the sizes below right? If not, choose the unit.</b>
      </p>
      <p v-if="found.left_out" class="soft">Left out: {{ found.left_out }}.</p>
      <CurveList :curves="found.curves" @taken="taken" />
    </template>
  </div>
</template>

<style scoped>
.file {
  margin-top: 12px;
}
.choose {
  display: inline-flex;
  gap: 10px;
  align-items: center;
}
.wrong {
  color: var(--stop);
}
</style>
