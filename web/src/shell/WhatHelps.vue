<script setup lang="ts">
import { onUnmounted, ref, watch } from "vue";
import { api, Refused } from "@/api/client";
import type { Offer, Remedies } from "@/api/types";
import { useProject } from "@/store/project";
import OfferRow from "./OfferRow.vue";

/**
 * What can be done about a finding: its changes, each worked out over the whole plan first. Many are tried against a stop
 * that has none of its own, so those are asked for; `ready` asks at once.
 */
const props = defineProps<{ finding: string; ready?: boolean }>();
const emit = defineEmits<{ take: [Offer] }>();
const store = useProject();
const found = ref<Remedies | null>(null);
/** So long a search may go on that was asked for once more, s. */
const LONGER = 25;
const busy = ref(false);
let stop: AbortController | null = null;

async function ask(seconds?: number) {
  stop?.abort();
  const mine = (stop = new AbortController());
  busy.value = true;
  try {
    const answer = await api.remedies(store.id, props.finding, mine.signal, seconds);
    if (stop === mine) found.value = answer;
  } catch (e) {
    if (!(e instanceof Refused) && !mine.signal.aborted) throw e;
  } finally {
    if (stop === mine) busy.value = false;
  }
}
function leave() {
  stop?.abort();
  stop = null;
  busy.value = false;
}
// What helped in one plan may not in the next.
watch(
  () => store.revision,
  () => {
    leave();
    found.value = null;
    if (props.ready) void ask();
  },
  { immediate: true },
);
onUnmounted(leave);
</script>

<template>
  <OfferRow
    v-for="offer in found?.offers ?? []"
    :key="offer.label"
    :offer="offer"
    @take="emit('take', $event)"
  />
  <p v-if="busy" class="asked">
    <span class="soft" role="status">Trying changes …</span>
    <button type="button" class="plain link" @click="leave">Stop</button>
  </p>
  <p v-else-if="!found" class="asked">
    <button type="button" class="plain link" @click="ask()">What would help?</button>
  </p>
  <p v-else-if="!found.offers.length || !found.all" class="asked soft">
    <span v-if="!found.offers.length && found.all">No change of these pieces helps.</span>
    <template v-else>
      <span v-if="!found.offers.length">Nothing found yet.</span>
      <button type="button" class="plain link" @click="ask(LONGER)">Search longer</button>
    </template>
  </p>
</template>

<style scoped>
.asked {
  display: flex;
  gap: 14px;
  padding: 0 9px 6px;
}
.link {
  text-decoration: underline;
  font-size: 14px;
  padding: 3px 0;
}
</style>
