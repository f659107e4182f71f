<script setup lang="ts">
import { computed, ref, watch } from "vue";
import FullSize from "@/fields/FullSize.vue";
import { api } from "@/api/client";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import type { Part } from "@/api/types";
import { say } from "@/units/text";
import WhySteps from "@/drawing/WhySteps.vue";
import AssemblySteps from "./AssemblySteps.vue";
import MeetFixings from "./MeetFixings.vue";
import PartDrawing from "./PartDrawing.vue";
import PartPlace from "./PartPlace.vue";
import TestFit from "./TestFit.vue";

const store = useProject();
const view = useView();
const parts = computed(() => store.shown?.parts ?? []);
const chosen = ref("");
watch(
  [() => view.marked, parts],
  () => {
    const marked = parts.value.find((p) => p.id === view.marked || p.mark === view.marked);
    if (marked) chosen.value = marked.id;
    if (!parts.value.some((p) => p.id === chosen.value)) chosen.value = parts.value[0]?.id ?? "";
  },
  { immediate: true },
);
/** By piece of furniture, in the order in which they are put together. */
const groups = computed(() => {
  const out: { id: string; name: string; parts: Part[] }[] = [];
  for (const p of parts.value) {
    let group = out.find((g) => g.id === p.module);
    if (!group) {
      const module = store.shown?.modules.find((m) => m.id === p.module);
      out.push((group = { id: p.module, name: module?.name ?? p.module, parts: [] }));
    }
    group.parts.push(p);
  }
  return out;
});
const part = computed(() => parts.value.find((p) => p.id === chosen.value));
const size = (h: Part["features"][number], unit: "mm" | "inch") =>
  h.diameter ? `⌀ ${h.diameter[unit]}` : h.size ? h.size.map((f) => f[unit]).join(" × ") : "";
const hardware = computed(() => store.shown?.hardware ?? []);
/** What holds this part, and to which others, but for those for which it is bored itself: the same words once. */
const held = computed(() => {
  const bored = new Set((part.value?.screws ?? []).flatMap((r) => r.to.split(", ")));
  const own = new Set(part.value?.boards ?? []);
  const mark = (board: string) => store.shown?.boards.find((b) => b.id === board)?.mark ?? "";
  const lines = new Map<string, Set<string>>();
  for (const j of store.shown?.joints ?? []) {
    if (!own.has(j.a) && !own.has(j.b)) continue;
    const other = mark(own.has(j.a) ? j.b : j.a);
    if (bored.has(other)) continue;
    const marks = lines.get(j.words) ?? new Set<string>();
    marks.add(other);
    lines.set(j.words, marks);
  }
  return [...lines].map(([words, marks]) => ({ words, to: [...marks].join(", ") }));
});
/** The boards of this part that lie along the vehicle: each can be held in its place. */
const fits = computed(() =>
  (store.shown?.fits ?? []).filter((f) => part.value?.boards.includes(f.board)),
);
/** How the piece is put together that the chosen part belongs to. */
const assembly = computed(() =>
  (store.shown?.assembly ?? []).find((a) => a.module === part.value?.module),
);
const holes = computed(() => (part.value?.features ?? []).filter((f) => f.kind !== "relief"));
</script>

<template>
  <p v-if="parts.length === 0" class="empty">
    No parts yet. They come with the deck:
    <router-link :to="{ name: 'layout' }">to the layout</router-link>.
  </p>
  <template v-else>
    <div class="row spread">
      <h2>
        <template v-if="part">{{ part.mark }} · {{ part.name }}</template>
      </h2>
      <span class="row">
        <a class="print" :href="api.exportUrl(store.id, 'parts.pdf')" download>Cards as PDF</a>
        <a class="print" :href="api.exportUrl(store.id, 'parts.svg')" download>as SVG</a>
        <a class="print" :href="api.exportUrl(store.id, 'steps.pdf')" download>Steps as PDF</a>
        <a class="print" :href="api.exportUrl(store.id, 'boards.dxf')" download>All as DXF</a>
      </span>
    </div>
    <div class="list" role="group" aria-label="Parts">
      <div v-for="g in groups" :key="g.id" class="group" role="group" :aria-label="g.name">
        <span class="soft name">{{ g.name }}</span>
        <button
          v-for="p in g.parts"
          :key="p.id"
          type="button"
          class="plain tab"
          :aria-pressed="p.id === chosen"
          :title="p.name"
          @click="chosen = p.id"
        >
          <b>{{ p.mark }}</b><template v-if="p.count > 1"> ×{{ p.count }}</template>
        </button>
      </div>
    </div>
    <template v-if="part">
      <p class="soft">
        {{ part.stuff }} · blank {{ say(part.w, store.system) }} ×
        {{ say(part.h, store.system, true) }} · {{ part.way.face }} · {{ part.weighs }} each,
        {{ store.shown?.weighs }} in all
      </p>
      <p v-if="part.places.length" class="soft">
        Where: <span v-for="(p, i) in part.places" :key="i">{{ i ? "; " : "" }}{{ p }}</span>
      </p>
      <FullSize of="boards" :part="part.mark" />
      <div class="drawn">
        <PartDrawing :part="part" class="grow" />
        <PartPlace :part="part" />
      </div>
      <div class="card">
        <div>
          <h3>Corners, from the red mark</h3>
          <div class="scroll-x" tabindex="0" role="group" aria-label="Table of numbers">
            <table class="paper-table">
              <thead>
                <tr>
                  <th></th>
                  <th colspan="2">across, mm and in</th>
                  <th colspan="2">up, mm and in</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="c in part.corners" :key="c.letter">
                  <td>
                    <b>{{ c.letter }}</b>
                  </td>
                  <td class="figure">{{ c.u.mm }}</td>
                  <td class="figure soft">{{ c.u.inch }}</td>
                  <td class="figure">{{ c.v.mm }}</td>
                  <td class="figure soft">{{ c.v.inch }}</td>
                </tr>
              </tbody>
            </table>
          </div>
        </div>
        <div>
          <section>
            <h3>Then</h3>
            <ul class="then">
              <li v-for="line in part.then" :key="line">{{ line }}</li>
            </ul>
            <template v-if="held.length">
              <h3>Held</h3>
              <ul class="then">
                <li v-for="h in held" :key="h.words">to {{ h.to }}: {{ h.words }}</li>
              </ul>
            </template>
            <template v-if="part.screws?.length">
              <h3>Screws, from the red mark</h3>
              <ul class="then">
                <li v-for="r in part.screws" :key="r.words">{{ r.words }}</li>
              </ul>
            </template>
            <template v-if="holes.length">
              <h3>Holes, centres from the red mark, mm and in</h3>
              <div class="scroll-x" tabindex="0" role="group" aria-label="Table of numbers">
                <table class="paper-table tight">
                  <thead>
                    <tr>
                      <th></th>
                      <th colspan="2">across</th>
                      <th colspan="2">up</th>
                      <th colspan="2">size</th>
                    </tr>
                  </thead>
                  <tbody>
                    <tr v-for="(h, i) in holes" :key="i">
                      <td>{{ h.kind }}</td>
                      <td class="figure">{{ h.centre[0]!.mm }}</td>
                      <td class="figure soft">{{ h.centre[0]!.inch }}</td>
                      <td class="figure">{{ h.centre[1]!.mm }}</td>
                      <td class="figure soft">{{ h.centre[1]!.inch }}</td>
                      <td class="figure">{{ size(h, "mm") }}</td>
                      <td class="figure soft">{{ size(h, "inch") }}</td>
                    </tr>
                  </tbody>
                </table>
              </div>
            </template>
          </section>
          <section>
            <MeetFixings :part="part" />
          </section>
          <section v-if="part.why.length">
            <h3>Why these numbers?</h3>
            <div v-for="w in part.why" :key="w.about" class="why">
              <p>
                <b class="mono">{{ say(w.total, store.system, true) }}</b> {{ w.about }}
              </p>
              <WhySteps :steps="w.steps" />
            </div>
          </section>
        </div>
      </div>
    </template>
    <TestFit v-for="f in fits" :key="f.board" :board="f" />
    <AssemblySteps v-if="assembly" :assembly="assembly" />
    <section v-if="hardware.length" class="bought">
      <div class="row spread">
        <h3>To buy besides boards</h3>
        <a class="print" :href="api.exportUrl(store.id, 'hardware.csv')" download>as CSV</a>
      </div>
      <div class="scroll-x" tabindex="0" role="group" aria-label="Screws and fittings">
        <table class="paper-table">
          <thead>
            <tr>
              <th>what</th>
              <th>size</th>
              <th>count</th>
              <th>spare</th>
              <th>for</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="h in hardware" :key="h.what + h.size">
              <td>{{ h.what }}</td>
              <td class="figure">{{ h.size }}</td>
              <td class="figure">{{ h.count }}</td>
              <td class="figure soft">{{ h.spare || "" }}</td>
              <td>{{ h.places.join(", ") }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </template>
</template>

<style scoped>
/* Three lengths in both systems beside each other have to be in sight at 1280. */
.tight td,
.tight th {
  padding-left: 0;
  padding-right: 4px;
  font-size: 13.5px;
}
.list {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 22px;
  margin: 6px 0;
}
.group {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px;
}
.name {
  margin-right: 4px;
}
.bought {
  margin-top: 18px;
}
.drawn {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 16px;
}
.drawn > .grow {
  flex: 1 1 420px;
  min-width: 0;
}
.tab {
  padding: 5px 11px;
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
}
.tab[aria-pressed="true"] {
  background: var(--ink);
  color: var(--on-ink);
}
.print {
  font-weight: 600;
}
.card {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 10px 24px;
}
.then {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}
.then li::before {
  content: "□ ";
}
.hole {
  display: inline-block;
  margin-right: 8px;
}
.why {
  border-left: 8px solid var(--steel);
  padding-left: 10px;
  margin-bottom: 10px;
  font-size: 14.5px;
}
@media (max-width: 1000px) {
  .card {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
