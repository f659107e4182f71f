<script setup lang="ts">
import { computed, ref } from "vue";
import { api } from "@/api/client";
import type { Plan, Project } from "@/api/types";
import LengthField from "@/fields/LengthField.vue";
import PlainField from "@/fields/PlainField.vue";
import { useProject } from "@/store/project";
import { escapePointer } from "@/units/text";
import { pairs } from "./pairs";

/** The readings of a curve: two numbers each and what its way of capturing asks beside them, one by one or pasted. */
const props = defineProps<{
  id: string;
  template: NonNullable<Project["templates"]>[string];
  curve: Plan["templates"][number];
}>();
const store = useProject();
const at = computed(() => `/templates/${escapePointer(props.id)}/stations`);
const stations = computed(() =>
  Object.entries(props.template.stations ?? {}).sort(([a], [b]) => (a < b ? -1 : 1)),
);
/** In the order in which they are added, whatever else is removed. */
function fresh(n: number): string[] {
  const digits = stations.value.map(([id]) => id.replace(/\D/g, ""));
  const last = Math.max(0, ...digits.map((d) => Number(d) || 0));
  // Identifiers sort by their letters: as many digits as those that are there.
  const wide = Math.max(0, ...digits.map((d) => d.length)) || 4;
  return Array.from({ length: n }, (_, i) => `s${String(last + 1 + i).padStart(wide, "0")}`);
}
async function add() {
  const [id] = fresh(1);
  const value = { a: props.curve.next?.at.value ?? null, b: null };
  await store.change([{ op: "add", path: `${at.value}/${id}`, value }]);
}
function remove(id: string) {
  void store.change([{ op: "remove", path: `${at.value}/${escapePointer(id)}` }]);
}
function corner(id: string, is: boolean) {
  const path = `${at.value}/${escapePointer(id)}/corner`;
  void store.change([{ op: "add", path, value: is }]);
}
const pasted = ref("");
const error = ref("");
async function take() {
  error.value = "";
  const rows = pairs(pasted.value);
  if (typeof rows === "string") {
    error.value = rows;
    return;
  }
  const units = store.project?.units;
  const answer = await api.tape(rows.flat(), units?.tape ?? "mm", units?.denominator ?? 16);
  const bad = answer.results.findIndex((r) => "error" in r);
  if (bad >= 0) {
    error.value = `Line ${Math.floor(bad / 2) + 1}: "${rows.flat()[bad]}" is no length.`;
    return;
  }
  const mm = answer.results.map((r) => ("error" in r ? 0 : r.mm));
  const ids = fresh(rows.length);
  await store.change(
    ids.map((id, i) => ({
      op: "add" as const,
      path: `${at.value}/${id}`,
      value: { a: mm[2 * i], b: mm[2 * i + 1] },
    })),
  );
  pasted.value = "";
}
</script>

<template>
  <div class="list">
    <div v-for="([s, own], i) in stations" :key="s" class="station">
      <b class="mono">{{ i + 1 }}</b>
      <LengthField
        :label="`${i + 1}, ${curve.asks[0]}`"
        hide-label
        :pointer="`${at}/${escapePointer(s)}/a`"
        :value="own.a"
        :empty="curve.asks[0]"
      />
      <LengthField
        :label="`${i + 1}, ${curve.asks[1]}`"
        hide-label
        :pointer="`${at}/${escapePointer(s)}/b`"
        :value="own.b"
        :empty="curve.asks[1]"
      />
      <el-button
        v-if="template.way !== 'runs'"
        class="corner"
        :aria-label="`Reading ${i + 1} is a corner`"
        :aria-pressed="own.corner === true"
        title="a corner: nothing is smoothed over it"
        @click="corner(s, !own.corner)"
        >∠</el-button
      >
      <el-button :aria-label="`Remove reading ${i + 1}`" @click="remove(s)">×</el-button>
      <span v-if="curve.more.length" class="next-row" />
      <template v-for="m in curve.more" :key="m.field">
        <PlainField
          v-if="m.degrees"
          class="more"
          kind="number"
          :label="`${i + 1}, ${m.label}`"
          hide-label
          :pointer="`${at}/${escapePointer(s)}/${m.field}`"
          :value="own[m.field as 'c' | 'angle' | 'radius']"
          :empty="m.label"
        />
        <LengthField
          v-else
          class="more"
          :label="`${i + 1}, ${m.label}`"
          hide-label
          :pointer="`${at}/${escapePointer(s)}/${m.field}`"
          :value="own[m.field as 'c' | 'angle' | 'radius']"
          :empty="m.label"
        />
      </template>
    </div>
  </div>
  <div class="row">
    <el-button @click="add">Add a reading</el-button>
  </div>
  <details>
    <summary>Paste many</summary>
    <el-input
      v-model="pasted"
      type="textarea"
      :rows="4"
      aria-label="Readings, two lengths a line"
      placeholder="120; 43.5"
    />
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <el-button :disabled="!pasted.trim()" @click="take">Take these</el-button>
  </details>
</template>

<style scoped>
.list {
  max-height: 460px;
  overflow-y: auto;
}
.station {
  display: grid;
  grid-template-columns: 28px minmax(0, 1fr) minmax(0, 1fr) auto auto;
  gap: 6px;
  align-items: start;
  margin-bottom: 4px;
}
.station .el-button {
  margin-left: 0;
  padding: 8px 12px;
}
.corner[aria-pressed="true"] {
  background: var(--ink);
  color: var(--on-ink);
}
.next-row {
  grid-column: 1;
}
.station b {
  padding-top: 9px;
}
.wrong {
  color: var(--stop);
}
</style>
