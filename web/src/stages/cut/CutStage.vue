<script setup lang="ts">
import { computed, ref } from "vue";
import { Refused, api, refusal } from "@/api/client";
import { useProject } from "@/store/project";
import { costs } from "@/units/cost";
import { escapePointer, say } from "@/units/text";
import AcceptedBar from "./AcceptedBar.vue";
import MaterialTable from "./MaterialTable.vue";
import SheetDrawing from "./SheetDrawing.vue";
import StockTable from "./StockTable.vue";

const store = useProject();
const groups = computed(() => store.shown?.sheets ?? []);
const sheets = computed(() => groups.value.flatMap((g) => g.sheets.map((s) => ({ g, s }))));

/** What names a step before the first cut, for ticking off. */
const first = (sheet: string, i: number) => `${sheet}.first.${i + 1}`;
const tick = (key: string): string => `/cutting/ticked/${escapePointer(key)}`;
const done = (key: string) => ({
  op: "add" as const,
  path: tick(key),
  value: new Date().toISOString(),
});
const told = ref("");
/** A tick belongs to a sheet that stays: the first one accepts the layout, in the same step. */
async function set(key: string, accepted: boolean, on: boolean) {
  told.value = "";
  if (!on) return void (await store.change([{ op: "remove", path: tick(key) }]));
  if (accepted) return void (await store.change([done(key)]));
  try {
    const quiet = new AbortController();
    const found = await api.searchSheets(store.id, 0, () => {}, quiet.signal);
    await store.change([...found.patch, done(key)]);
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    told.value = refusal(e.problem);
  }
}
</script>

<template>
  <div class="row spread">
    <h2>What is cut, in which order?</h2>
    <span v-if="sheets.length" class="row">
      <a class="print" :href="api.exportUrl(store.id, 'sheets.pdf')" download>Sheets as PDF</a>
      <a class="print" :href="api.exportUrl(store.id, 'sheets.svg')" download>as SVG</a>
      <a class="print" :href="api.exportUrl(store.id, 'cuts.csv')" download>Cut list as CSV</a>
      <a class="print" :href="api.exportUrl(store.id, 'parts.csv')" download>Part list as CSV</a>
    </span>
  </div>
  <p v-if="groups.length === 0" class="empty">
    No sheets yet. They come with the parts:
    <router-link :to="{ name: 'layout' }">to the layout</router-link>.
  </p>
  <p v-for="g in groups" :key="g.stuff" class="soft">
    <b>{{ g.stuff }}</b>: <template v-if="g.problem">{{ g.problem }}</template>
    <template v-else>
      {{ g.nest.sheets_used }} {{ g.bar ? "bar" : "sheet"
      }}{{ g.nest.sheets_used === 1 ? "" : "s" }}, {{ g.used_percent.toFixed(0) }} % becomes parts{{
        `, cost ${costs({ cost: g.nest.cost, unpriced: g.unpriced })}`
      }}
    </template>
  </p>
  <p v-if="sheets.length" class="total">
    <b>All sheets: {{ costs(store.shown!) }}.</b>
    <template v-if="store.shown!.unpriced"> Type prices under “Sheets you can get” below.</template>
  </p>
  <AcceptedBar v-if="sheets.length" />
  <p v-if="told" role="alert">{{ told }}</p>
  <section v-for="{ g, s } in sheets" :key="s.mark" class="sheet" :aria-label="`Sheet ${s.mark}`">
    <h3>
      {{ s.mark }} · {{ g.stuff }} · {{ say(s.w, store.system) }} ×
      {{ say(s.h, store.system, true) }}
      <span v-if="!s.accepted && sheets.some((o) => o.s.accepted)" class="fresh">
        not accepted yet
      </span>
    </h3>
    <div class="both">
      <SheetDrawing :sheet="s" />
      <div>
        <ul v-if="s.first.length" class="first">
          <li v-for="(words, i) in s.first" :key="words">
            <el-checkbox
              :model-value="Boolean(store.project?.cutting?.ticked?.[first(s.mark, i)])"
              @change="(on: unknown) => set(first(s.mark, i), s.accepted, Boolean(on))"
              >{{ words }}</el-checkbox
            >
          </li>
        </ul>
        <ol class="cuts">
          <li v-for="c in s.cuts" :key="c.key" :class="{ done: c.done }">
            <el-checkbox
              :model-value="c.done"
              @change="(on: unknown) => set(c.key, s.accepted, Boolean(on))"
            >
              <b>{{ c.n }}.</b> {{ c.text }}
            </el-checkbox>
          </li>
        </ol>
        <p v-if="s.offcuts.length" class="soft">
          Keep:
          <span v-for="o in s.offcuts" :key="o.mark" class="offcut">
            {{ o.mark }} {{ say(o.w, store.system) }} × {{ say(o.h, store.system) }}
          </span>
        </p>
      </div>
    </div>
  </section>
  <StockTable />
  <MaterialTable />
</template>

<style scoped>
.fresh {
  color: var(--look);
  font-weight: 600;
  font-size: 14px;
}
.print {
  font-weight: 600;
}
.first {
  list-style: none;
  padding: 0;
  margin: 0 0 4px;
}
.sheet {
  border-top: 1.5px solid var(--hair-strong);
  padding-top: 8px;
  margin-top: 10px;
}
.both {
  display: grid;
  grid-template-columns: minmax(0, 1.75fr) minmax(0, 1fr);
  gap: 18px;
}
.cuts {
  list-style: none;
  padding: 0;
  margin: 0;
}
.first :deep(.el-checkbox),
.cuts :deep(.el-checkbox) {
  height: auto;
  min-height: 30px;
  margin: 0;
  align-items: flex-start;
  padding: 3px 0;
}
.cuts .done :deep(.el-checkbox__label) {
  color: var(--fine);
  text-decoration: line-through;
}
.offcut {
  display: inline-block;
  margin-right: 10px;
}
@media (max-width: 1000px) {
  .both {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
