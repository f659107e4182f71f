<script setup lang="ts">
import { computed } from "vue";
import { useProject } from "@/store/project";
import { both, say } from "@/units/text";
import DeckChoices from "./DeckChoices.vue";
import DeckPlanDrawing from "./DeckPlanDrawing.vue";
import DeckSideDrawing from "./DeckSideDrawing.vue";

const store = useProject();
const decks = computed(() => store.shown?.decks ?? []);
const module = computed(() => Object.entries(store.project?.modules ?? {})[0]);
const waits = computed(() => {
  if (!store.shown?.survey.bays.length)
    return { words: "The deck needs the bay: length and both walls.", to: "survey" };
  if (!module.value?.[1].underside)
    return { words: "The deck needs its height: pick a rung of the ladder.", to: "heights" };
  return { words: "Nothing of the deck is left at this height.", to: "heights" };
});
const SPLITS: Record<string, string> = {
  whole: "in one piece",
  lengthwise: "in two, along",
  across: "in two, across",
  quarters: "in four",
};
</script>

<template>
  <h2>Where does the deck go, and what carries it?</h2>
  <p v-if="decks.length === 0" class="empty">
    {{ waits.words }} <router-link :to="{ name: waits.to }">Go there</router-link>.
  </p>
  <DeckChoices v-if="module && decks.length === 0" :id="module[0]" :deck="module[1]" />
  <template v-for="deck in decks" :key="deck.id">
    <p class="soft">
      {{ deck.name }} at {{ both(deck.underside, store.system) }} · {{ SPLITS[deck.split] ?? "" }} ·
      {{ deck.lines.length }} supports<template v-if="deck.span"
        >, span {{ say(deck.span, store.system, true) }}</template
      >
      <template v-if="deck.vents.length"> · {{ deck.vents.length }} vents</template>
    </p>
    <DeckPlanDrawing :deck="deck" />
    <DeckSideDrawing :deck="deck" />
    <DeckChoices v-if="module" :id="module[0]" :deck="module[1]" />
    <details class="why">
      <summary>Why {{ say(deck.clearance.total, store.system) }} clear of the walls?</summary>
      <table>
        <tbody>
          <tr v-for="(step, i) in deck.clearance.steps" :key="i">
            <td class="mono">{{ step.op }} {{ say(step.figure, store.system) }}</td>
            <td>{{ step.label }}</td>
          </tr>
        </tbody>
      </table>
    </details>
  </template>
</template>

<style scoped>
.why {
  font-size: 14.5px;
  margin: 4px 0 10px;
}
.why td:first-child {
  text-align: right;
  padding-right: 10px;
}
</style>
