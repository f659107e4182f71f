<script setup lang="ts">
import { computed, ref } from "vue";
import { api } from "@/api/client";
import { useProject } from "@/store/project";

/** Files at full size: for paper, a plotter, a cutter. Of one board, or of what the stage shows. */
const props = defineProps<{ of: "boards" | "templates"; part?: string }>();
const store = useProject();
const PAPERS = [
  ["a4", "A4"],
  ["letter", "Letter"],
  ["a3", "A3"],
  ["roll-594", "roll 594 mm wide"],
  ["roll-610", "roll 24 in wide"],
  ["roll-914", "roll 36 in wide"],
] as const;
const own = computed(() => store.project?.units?.paper ?? "a4");
const chosen = ref("");
const paper = computed({ get: () => chosen.value || own.value, set: (v) => (chosen.value = v) });
function url(form: string, more: Record<string, string> = {}) {
  const query = new URLSearchParams(props.part ? { ...more, part: props.part } : more).toString();
  return api.exportUrl(store.id, `${props.of}.${form}`) + (query ? `?${query}` : "");
}
</script>

<template>
  <span class="full row">
    <span>{{ part ? `${part} at` : "At" }} full size:</span>
    <el-select v-model="paper" aria-label="Paper" class="paper">
      <el-option v-for="[key, words] in PAPERS" :key="key" :value="key" :label="words" />
    </el-select>
    <a class="print" :href="url('pdf', { paper })" download>PDF</a>
    <a class="print" :href="url('svg')" download>SVG</a>
    <a class="print" :href="url('dxf')" download>DXF</a>
    <a class="print" :href="url('dxf', { release: '2000' })" download>DXF 2000</a>
  </span>
</template>

<style scoped>
.full {
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.paper {
  width: 150px;
}
</style>
