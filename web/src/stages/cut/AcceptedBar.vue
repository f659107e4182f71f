<script setup lang="ts">
import { computed, onBeforeUnmount, ref } from "vue";
import { Refused, api, refusal, wasStopped } from "@/api/client";
import type { Found } from "@/api/types";
import { useProject } from "@/store/project";

/** Whether the sheets stay: accept them, lay them out again, search for fewer, with progress and a way out. */
const store = useProject();
const sheets = computed(() => (store.shown?.sheets ?? []).flatMap((g) => g.sheets));
const accepted = computed(() => sheets.value.some((s) => s.accepted));
const whole = computed(() => sheets.value.every((s) => s.accepted));
const changed = computed(() =>
  sheets.value.some((s) => s.parts.some((p) => p.standing === "changed")),
);

const share = ref<number | null>(null);
const found = ref<Found | null>(null);
const told = ref("");
let stop: AbortController | null = null;

/** Searches; what was found is taken at once or offered. */
async function search(effort: number, take: boolean) {
  if (share.value !== null) return;
  const mine = (stop = new AbortController());
  told.value = "";
  found.value = null;
  share.value = 0;
  try {
    const answer = await api.searchSheets(
      store.id,
      effort,
      (done, of) => (share.value = of ? done / of : 0),
      mine.signal,
    );
    if (take) await store.change(answer.patch);
    else if (answer.sheets < answer.before) found.value = answer;
    else told.value = `No layout with fewer than ${answer.before} sheets was found.`;
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    if (!wasStopped(e)) told.value = refusal(e.problem);
  } finally {
    share.value = null;
  }
}
async function take() {
  const patch = found.value?.patch;
  found.value = null;
  if (patch) await store.change(patch);
}
onBeforeUnmount(() => stop?.abort());
</script>

<template>
  <div class="bar" role="group" aria-label="The layout of the sheets">
    <p v-if="!accepted">
      These sheets move with every change. <b>Accept them</b> before you buy or cut: then they stay,
      and what no longer matches is told.
    </p>
    <p v-else-if="whole && !changed">Accepted: these sheets stay as they are.</p>
    <p v-else>Accepted, but the plan has changed since. Sheets that were begun stay.</p>
    <div class="row">
      <template v-if="share === null">
        <el-button v-if="!accepted" type="primary" @click="search(0, true)">
          Accept the sheets
        </el-button>
        <el-button v-else-if="!whole || changed" type="primary" @click="search(0, true)">
          Lay out again
        </el-button>
        <el-button @click="search(1, false)">Look for fewer sheets</el-button>
      </template>
      <template v-else>
        <progress :value="share" max="1" aria-label="How far the search is"></progress>
        <el-button @click="stop?.abort()">Stop</el-button>
      </template>
      <span v-if="found" class="row">
        <b>{{ found.sheets }} instead of {{ found.before }} sheets.</b>
        <el-button type="primary" @click="take">Take it</el-button>
        <el-button @click="found = null">Leave it</el-button>
      </span>
      <span v-if="told" role="status">{{ told }}</span>
    </div>
  </div>
</template>

<style scoped>
.bar {
  border-left: 8px solid var(--steel);
  padding: 2px 0 2px 12px;
  margin: 8px 0;
}
p {
  margin: 0 0 6px;
}
progress {
  width: 180px;
  accent-color: var(--steel);
}
</style>
