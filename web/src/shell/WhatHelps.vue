<script setup lang="ts">
import { onUnmounted, ref, watch } from "vue";
import { api, Refused } from "@/api/client";
import type { Offer } from "@/api/types";
import { useProject } from "@/store/project";
import OfferRow from "./OfferRow.vue";

/**
 * What can be done about a finding: its changes, each worked out over the whole plan first. Many are tried against a stop
 * that has none of its own, so those are asked for; `ready` asks at once.
 */
const props = defineProps<{ finding: string; ready?: boolean }>();
const emit = defineEmits<{ take: [Offer] }>();
const store = useProject();
const found = ref<Offer[] | null>(null);
const busy = ref(false);
let stop: AbortController | null = null;

async function ask() {
  stop?.abort();
  const mine = (stop = new AbortController());
  busy.value = true;
  try {
    const offers = await api.remedies(store.id, props.finding, mine.signal);
    if (stop === mine) found.value = offers;
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
  <p v-if="!found" class="asked">
    <button v-if="!busy" type="button" class="plain link" @click="ask">What would help?</button>
    <template v-else>
      <span class="soft" role="status">Trying changes …</span>
      <button type="button" class="plain link" @click="leave">Leave it</button>
    </template>
  </p>
  <p v-else-if="!found.length" class="asked soft">None of the changes that were tried helps.</p>
  <OfferRow
    v-for="offer in found ?? []"
    :key="offer.label"
    :offer="offer"
    @take="emit('take', $event)"
  />
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
