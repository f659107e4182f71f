<script setup lang="ts">
import { computed, ref, shallowRef, watch } from "vue";
import { api, Refused } from "@/api/client";
import type { Scene } from "@/api/types";
import WhySteps from "@/drawing/WhySteps.vue";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";
import EveningLine from "./EveningLine.vue";
import HoldPanel from "./HoldPanel.vue";
import ModuleForm from "./ModuleForm.vue";
import PieceList from "./PieceList.vue";
import StartingPoints from "./StartingPoints.vue";
import VariantTable from "./VariantTable.vue";
import ThreeViews from "./ThreeViews.vue";

const store = useProject();
const view = useView();
const modules = computed(() => store.shown?.modules ?? []);
const known = computed(() => (store.shown?.survey.bays.length ?? 0) > 0);
const wanted = ref("");
/** What has moved at the bead that the evening stands at. */
const scene = shallowRef<Scene | null>(null);
/** All the way of what moves of the piece that is picked, when it is asked for. */
const ways = ref(false);
const sweep = shallowRef<Scene | null>(null);
let stop: AbortController | null = null;
const picked = computed(
  () =>
    modules.value.find((m) => m.id === wanted.value) ??
    modules.value.find((m) => m.kind === "deck") ??
    modules.value[0] ??
    null,
);
/** Fields show what is stored: while something is pulled at, the drawing says the number. */
const stored = computed(
  () => store.plan?.modules.find((m) => m.id === picked.value?.id) ?? picked.value,
);
const deck = computed(() => store.shown?.decks.find((d) => d.id === picked.value?.id) ?? null);
// What a finding shows is picked.
watch(
  () => view.marked,
  (mark) => {
    if (modules.value.some((m) => m.id === mark)) wanted.value = mark;
  },
  { immediate: true },
);
const moves = computed(() => (picked.value?.bodies.length ?? 0) > 0);
watch([ways, () => picked.value?.id, () => store.revision], async () => {
  stop?.abort();
  sweep.value = null;
  const piece = picked.value?.id;
  if (!ways.value || !piece || !moves.value) return;
  const mine = (stop = new AbortController());
  try {
    const found = await api.sweep(store.id, piece, mine.signal);
    if (stop === mine && !mine.signal.aborted) sweep.value = found;
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    if (!mine.signal.aborted) store.failed = e.problem;
  }
});
const waits = computed(() => {
  if (picked.value?.boards !== 0) return null;
  if (!known.value)
    return { words: "Furniture needs the bay: length and both walls.", to: "survey" };
  const underside = store.project?.modules?.[picked.value.id]?.choices as
    { underside?: number | null } | undefined;
  if (picked.value.kind === "deck" && !underside?.underside)
    return { words: "The deck needs its height: pick a rung of the ladder.", to: "heights" };
  return { words: `Nothing is left of the ${picked.value.name} here.`, to: "heights" };
});
</script>

<template>
  <h2>What goes where, and does it move?</h2>
  <template v-if="known">
    <ThreeViews
      :picked="picked?.id ?? ''"
      :deck="deck"
      :scene="scene"
      :sweep="sweep"
      @pick="(id) => (wanted = id)"
    >
      <PieceList :picked="picked?.id ?? ''" @pick="(id) => (wanted = id)" />
    </ThreeViews>
    <EveningLine :picked="picked?.id ?? ''" @scene="(s) => (scene = s)">
      <el-checkbox v-if="moves" v-model="ways" class="ways">
        All the way of the {{ picked?.name }}
      </el-checkbox>
    </EveningLine>
  </template>
  <p v-if="waits" class="empty">
    {{ waits.words }} <router-link :to="{ name: waits.to }">Go there</router-link>.
  </p>
  <ModuleForm v-if="stored" :key="stored.id" :module="stored" @removed="wanted = ''" />
  <HoldPanel v-if="picked" :module="picked.id" />
  <VariantTable v-if="known && modules.length" />
  <StartingPoints v-if="known" />
  <details v-if="deck" class="why">
    <summary>Why {{ say(deck.clearance.total, store.system) }} clear of the walls?</summary>
    <WhySteps :steps="deck.clearance.steps" />
  </details>
</template>

<style scoped>
.ways {
  float: right;
  height: 24px;
}
.why {
  font-size: 14.5px;
  margin: 4px 0 10px;
}
</style>
