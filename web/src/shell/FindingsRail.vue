<script setup lang="ts">
import { computed, ref } from "vue";
import { useRoute, useRouter } from "vue-router";
import type { Finding, Offer, Operation } from "@/api/types";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";
import WhatHelps from "./WhatHelps.vue";

const store = useProject();
const view = useView();
const router = useRouter();
const route = useRoute();
const opened = ref<Set<string>>(new Set());

const WORDS = { stop: "Stop", look: "Look", fine: "Fine" } as const;
const SIGNS = { stop: "■", look: "◧", fine: "○" } as const;

/** Worst first, and of equally bad ones those of this stage first. */
const findings = computed(() => {
  const ORDER = ["stop", "look", "fine"];
  const here = (f: Finding) => (f.stage === route.name ? 0 : 1);
  return [...(store.shown?.findings ?? [])].sort(
    (a, b) => ORDER.indexOf(a.level) - ORDER.indexOf(b.level) || here(a) - here(b),
  );
});
/** What the state is called in which a finding holds. */
const stateOf = (id: string) => store.shown?.evening.states.find((s) => s.id === id)?.name ?? id;
/** What is settled is folded away; the rest shows its sentence first. */
const open = computed(() => findings.value.filter((f) => f.level !== "fine"));
const fine = computed(() => findings.value.filter((f) => f.level === "fine"));
const unfolded = ref(false);
const shown = computed(() => (unfolded.value ? findings.value : open.value));
const counts = computed(() => {
  const of = (level: string) => findings.value.filter((f) => f.level === level).length;
  return `${of("stop")} stop, ${of("look")} look, ${of("fine")} fine`;
});

function toggle(id: string) {
  const next = new Set(opened.value);
  if (!next.delete(id)) next.add(id);
  opened.value = next;
}

function show(finding: Finding) {
  view.show(finding);
  view.findings = false;
  if (finding.show) void router.push({ name: finding.show.stage, params: { id: store.id } });
}

/** Changes are tried over what is stored, so not while something is pulled at. */
const helped = (f: Finding) => opened.value.has(f.id) && f.offers.length > 0 && !store.previewed;
/** A stop for which no check has an offer. A reading that is wrong is put right where it is, not by the furniture. */
const unhelped = (f: Finding) =>
  f.level === "stop" &&
  !f.offers.length &&
  !["survey", "templates", "cut"].includes(f.stage) &&
  !store.previewed;
function take(offer: Offer) {
  void store.change(offer.patch as unknown as Operation[]);
}
</script>

<template>
  <aside class="rail" :class="{ open: view.findings }" aria-label="Findings">
    <button
      type="button"
      class="plain handle"
      :aria-expanded="view.findings"
      @click="view.findings = !view.findings"
    >
      <b>What the numbers say</b> <span class="soft">{{ counts }}</span>
    </button>
    <h2 class="title">What the numbers say</h2>
    <p v-if="findings.length === 0" class="soft">
      Nothing yet. Findings come with the first readings.
    </p>
    <article v-for="f in shown" :key="f.id" class="finding" :class="f.level">
      <div class="body">
        <p>
          <b class="level"
            ><span aria-hidden="true">{{ SIGNS[f.level] }}</span> {{ WORDS[f.level] }}</b
          ><span v-if="f.state" class="soft"> · {{ stateOf(f.state) }}</span>
          {{ f.sentence }}
        </p>
        <p v-if="f.rule && opened.has(f.id)" class="rule">{{ f.rule }}. {{ f.source }}.</p>
        <p class="links">
          <button v-if="f.show" type="button" class="plain link" @click="show(f)">Show me</button>
          <button
            v-if="f.numbers.length || f.rule"
            type="button"
            class="plain link"
            :aria-expanded="opened.has(f.id)"
            @click="toggle(f.id)"
          >
            {{ f.numbers.length ? "Numbers" : "Rule" }}
          </button>
          <button
            v-if="f.offers.length"
            type="button"
            class="plain link"
            :aria-expanded="opened.has(f.id)"
            @click="toggle(f.id)"
          >
            Fix …
          </button>
        </p>
        <table v-if="opened.has(f.id) && f.numbers.length" class="numbers">
          <tbody>
            <tr v-for="(step, i) in f.numbers" :key="i">
              <td class="mono">{{ step.op }} {{ say(step.figure, store.system) }}</td>
              <td>{{ step.label }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <WhatHelps v-if="helped(f)" :finding="f.id" ready @take="take" />
      <WhatHelps v-else-if="unhelped(f)" :finding="f.id" @take="take" />
    </article>
    <button
      v-if="fine.length"
      type="button"
      class="plain link"
      :aria-expanded="unfolded"
      @click="unfolded = !unfolded"
    >
      {{ unfolded ? "Fold what is fine" : `${fine.length} checked and fine` }}
    </button>
  </aside>
</template>

<style scoped>
.rail {
  grid-area: rail;
  background: var(--ground);
  border-left: 1.5px solid var(--hair);
  overflow-y: auto;
  padding: 14px;
}
.handle {
  display: none;
}
.title {
  margin-bottom: 10px;
}
.finding {
  background: var(--paper);
  border: 1px solid var(--hair);
  border-left: 8px solid var(--fine);
  margin-bottom: 7px;
  font-size: 14.5px;
  line-height: 1.3;
}
.finding.stop {
  border-left-color: var(--stop);
}
.finding.look {
  border-left-color: var(--look);
}
.body {
  padding: 6px 9px;
}
.level {
  color: var(--fine);
  margin-right: 4px;
}
.stop .level {
  color: var(--stop);
}
.look .level {
  color: var(--look);
}
.rule {
  color: var(--ink-2);
  font-size: 13px;
  margin-top: 2px;
}
.links {
  display: flex;
  gap: 14px;
  margin-top: 2px;
}
.link {
  text-decoration: underline;
  font-size: 14px;
  padding: 3px 0;
}
.numbers {
  font-size: 13.5px;
}
.numbers td:first-child {
  text-align: right;
  padding-right: 8px;
  white-space: nowrap;
}
@media (max-width: 720px) {
  .rail {
    grid-area: stage;
    align-self: end;
    z-index: 5;
    border: 0;
    border-top: 1.5px solid var(--ink);
    padding: 0 12px;
    max-height: 100%;
  }
  .rail:not(.open) > :not(.handle) {
    display: none;
  }
  .title {
    display: none;
  }
  .handle {
    display: flex;
    align-items: center;
    justify-content: space-between;
    min-height: var(--touch);
    width: 100%;
    position: sticky;
    top: 0;
    background: var(--ground);
  }
}
</style>
