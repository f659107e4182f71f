<script setup lang="ts">
import { computed, ref } from "vue";
import type { Mark } from "@/api/types";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { escapePointer, say } from "@/units/text";

/** The same numbers as the drawing, every reading kept. */
const store = useProject();
const view = useView();
const props = defineProps<{ z: number }>();
const FILTERS = ["all", "left", "right", "this height", "trouble"] as const;
const filter = ref<(typeof FILTERS)[number]>("all");

const rows = computed(() =>
  (store.shown?.survey.marks ?? []).filter((m) => {
    if (filter.value === "all") return true;
    if (filter.value === "trouble") return m.state !== "ok";
    if (filter.value === "this height")
      return (
        ["wall", "width", "length", "diagonal"].includes(m.quantity.of) &&
        Math.abs(m.z - props.z) < 1
      );
    if (m.quantity.of === "wall") return m.quantity.side === filter.value;
    if (m.quantity.of !== "thing") return false;
    return store.project?.survey?.things?.[m.quantity.id]?.side === filter.value;
  }),
);
const skipped = computed(() => Object.keys(store.project?.survey?.skipped ?? {}));

function aside(id: string, on: boolean) {
  void store.change([
    { op: "add", path: `/survey/readings/${escapePointer(id)}/aside`, value: on },
  ]);
}
function stateWords(m: Mark): string {
  if (m.state === "disagrees") return `do not agree (${say(m.spread, store.system)} apart)`;
  if (m.state === "again") return "does not suit its neighbours";
  if (m.state === "soft") return "against a lining";
  return `±${m.sd.toFixed(1)} mm`;
}
/** What the whole survey makes of it, less what was read. */
function signed(mm: number): string {
  const text = Math.abs(mm) < 0.05 ? "0" : Math.abs(mm).toFixed(1);
  return text === "0" ? "0" : `${mm > 0 ? "+" : "−"}${text}`;
}
function askAll() {
  void store.change([{ op: "add", path: "/survey/skipped", value: {} }]);
}
</script>

<template>
  <section v-if="rows.length || filter !== 'all'">
    <div class="row spread head">
      <h3>Readings</h3>
      <div class="row" role="group" aria-label="Readings shown">
        <button
          v-for="f in FILTERS"
          :key="f"
          type="button"
          class="plain tab"
          :aria-pressed="filter === f"
          @click="filter = f"
        >
          {{ f }}
        </button>
      </div>
    </div>
    <div class="scroll-x" tabindex="0" role="group" aria-label="Table of readings">
      <table class="paper-table">
        <thead>
          <tr>
            <th>What</th>
            <th>mm</th>
            <th>in</th>
            <th>As typed</th>
            <th>Fit</th>
            <th>Doubt</th>
            <th>A slip shows from</th>
            <th><span class="hidden-text">Do</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in rows" :key="m.key" :class="[m.state, { marked: view.marked === m.key }]">
            <td>{{ m.what }}</td>
            <td class="figure">{{ m.figure.mm }}</td>
            <td class="figure">{{ m.figure.inch }}</td>
            <td>
              <span v-for="r in m.readings" :key="r.id" class="reading" :class="{ aside: r.aside }">
                <span class="mono">{{ r.typed }}</span>
                <button
                  v-if="m.readings.length > 1"
                  type="button"
                  class="plain link"
                  @click="aside(r.id, !r.aside)"
                >
                  {{ r.aside ? "count it" : "set aside" }}
                </button>
              </span>
            </td>
            <td class="figure">
              <template v-if="m.residual != null">{{ signed(m.residual) }}</template>
            </td>
            <td>
              {{ stateWords(m) }}
              <span v-if="m.readings.length > 1 && m.state === 'ok'" class="soft">
                · {{ m.readings.length }} readings, {{ say(m.spread, store.system) }} apart
              </span>
            </td>
            <td class="figure">
              <template v-if="m.noticed != null">{{ m.noticed.toFixed(0) }} mm</template>
              <span v-else class="soft">unchecked</span>
            </td>
            <td>
              <button type="button" class="plain link" @click="view.measureAgain(m)">
                again<span class="hidden-text">: {{ m.what }}</span>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
  <p v-if="skipped.length" class="soft skipped">
    {{ skipped.length }} could not be reached.
    <button type="button" class="plain link" @click="askAll">Ask for them again</button>
  </p>
</template>

<style scoped>
.head {
  margin-top: 14px;
}
.tab {
  padding: 3px 8px;
  color: var(--ink-2);
}
.tab[aria-pressed="true"] {
  color: var(--ink);
  font-weight: 700;
  border-bottom: 2.5px solid var(--ink);
}
.link {
  text-decoration: underline;
  font-size: 14px;
  min-height: 26px;
  min-width: 26px;
}
.reading {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  margin-right: 12px;
}
.aside .mono {
  text-decoration: line-through;
  color: var(--ink-2);
}
.disagrees td {
  color: var(--stop);
}
.again td {
  color: var(--look);
}
.marked td {
  background: var(--ground);
}
.skipped {
  margin-top: 8px;
}
</style>
