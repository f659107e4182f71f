<script setup lang="ts">
import { computed, ref } from "vue";
import { api, Refused, refusal } from "@/api/client";
import type { Cuts, Operation, Pair, ReadingsTable } from "@/api/types";
import DrawingFrame from "@/drawing/DrawingFrame.vue";
import CurveList from "@/stages/templates/CurveList.vue";
import { useProject } from "@/store/project";

/** Readings from elsewhere: a scan of the bay (PLY), cut at heights and across, or a table (CSV). What was found
 * is shown before it is added. */
const open = defineModel<boolean>({ required: true });
const store = useProject();
const file = ref<File | null>(null);
const cuts = ref<Cuts | null>(null);
const table = ref<ReadingsTable | null>(null);
const error = ref("");
const busy = ref(false);
const units = computed(() => store.project?.units);
/** What the tape counts in, and what is cut to begin with. */
const tape = computed(() => units.value?.tape ?? "mm");
const usual = { mm: "250, 450", cm: "25, 45", m: "0.25, 0.45", in: "10, 18", ft: "1, 1 1/2" };
const heights = ref(usual[tape.value]);
const across = ref("");
const scale = ref("1");
/** A place of the scan, and where it is in the vehicle, as typed. */
interface Corner {
  scan: Pair["scan"];
  vehicle: string[];
}
const pairs = ref<Corner[]>([]);
const CORNERS = ["threshold, left corner", "threshold, right corner", "front end, left corner"];

const isTable = computed(() => file.value?.name.toLowerCase().endsWith(".csv") ?? false);
const bounds = computed<[number, number, number, number]>(() => {
  const all = cuts.value?.shown ?? [];
  const span = (axis: number): [number, number] => {
    const values = all.map((p) => p[axis]!).sort((a, b) => a - b);
    const cut = Math.floor(values.length * 0.01);
    return [values[cut] ?? 0, values[values.length - 1 - cut] ?? 1];
  };
  const [x0, x1] = span(0);
  const [y0, y1] = span(1);
  return [x0, y0, x1, y1];
});

async function tell(work: () => Promise<void>) {
  error.value = "";
  busy.value = true;
  try {
    await work();
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    error.value = refusal(e.problem);
  } finally {
    busy.value = false;
  }
}
function choose(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null;
  cuts.value = null;
  table.value = null;
  pairs.value = [];
  void read();
}
/** Lengths as they were typed, in mm; says which of them is none. */
async function lengths(typed: string[]): Promise<number[]> {
  if (!typed.length) return [];
  const answer = await api.tape(typed, tape.value, units.value?.denominator ?? 16);
  return answer.results.map((r) => {
    if ("error" in r) throw new Refused(r.error);
    return r.mm;
  });
}
const list = (text: string) => text.split(",").filter((w) => w.trim());
async function read() {
  const chosen = file.value;
  if (!chosen) return;
  await tell(async () => {
    if (isTable.value) {
      table.value = await api.readings(store.id, chosen);
      return;
    }
    const placed = pairs.value.length >= 3;
    const known = placed || !pairs.value.length;
    const vehicle = placed ? await lengths(pairs.value.flatMap((p) => p.vehicle)) : [];
    const at = pairs.value.map((p, i) => ({
      scan: p.scan,
      vehicle: vehicle.slice(3 * i, 3 * i + 3),
    }));
    cuts.value = await api.scan(store.id, chosen, {
      heights: (await lengths(known ? list(heights.value) : [])).join(),
      across: (await lengths(known ? list(across.value) : [])).join(),
      scale: scale.value,
      pairs: placed ? JSON.stringify(at) : "",
    });
  });
}
/** The point of the scan nearest to the click becomes the next corner. */
function pick(event: MouseEvent, X: (v: number) => number, Y: (v: number) => number) {
  if (pairs.value.length >= 3 || !cuts.value) return;
  const box = (event.currentTarget as SVGElement).getBoundingClientRect();
  const [px, py] = [event.clientX - box.left, event.clientY - box.top];
  const distance = (p: number[]) => Math.hypot(X(p[0]!) - px, Y(p[1]!) - py);
  const near = cuts.value.shown.reduce((best, p) => (distance(p) < distance(best) ? p : best));
  pairs.value.push({ scan: near as Pair["scan"], vehicle: ["0", "0", "0"] });
}
async function add(patch: Record<string, unknown>[]) {
  await tell(async () => {
    if (!(await store.change(patch as unknown as Operation[]))) {
      error.value = store.failed ? refusal(store.failed) : "";
      store.failed = null;
      return;
    }
    open.value = false;
  });
}
</script>

<template>
  <el-dialog v-model="open" title="Readings from a scan or a table" width="min(760px, 94vw)">
    <p>
      <label>
        Scan (PLY) or table of readings (CSV, columns quantity and value_mm, value_cm or value_in)
        <input type="file" accept=".ply,.csv" class="file" @change="choose" />
      </label>
    </p>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <p v-if="busy" class="soft" aria-live="polite">Reading the file…</p>

    <template v-if="table">
      <p>
        <b>{{ table.added }} new readings</b>, {{ table.known }} there already<template
          v-if="table.refused.length"
          >, {{ table.refused.length }} rows could not be read</template
        >.
      </p>
      <ul v-if="table.refused.length">
        <li v-for="r in table.refused.slice(0, 6)" :key="String(r[0])">
          line {{ r[0] }}: {{ r[1] }}
        </li>
      </ul>
      <el-button :disabled="!table.added" @click="add(table.patch)"
        >Add {{ table.added }} readings</el-button
      >
    </template>

    <template v-if="cuts">
      <p class="soft">
        {{ cuts.points.toLocaleString("en") }} points, seen from above. If the scan does not lie in
        the vehicle’s frame yet, click three corners and say where they are.
      </p>
      <DrawingFrame
        v-slot="{ X, Y, w, h }"
        :bounds="bounds"
        label="The scan from above"
        :max-height="260"
      >
        <rect class="sheet" x="0" y="0" :width="w" :height="h" @click="pick($event, X, Y)" />
        <circle
          v-for="(p, i) in cuts.shown"
          :key="i"
          :cx="X(p[0]!)"
          :cy="Y(p[1]!)"
          r="1"
          class="dot"
        />
        <circle
          v-for="(p, i) in pairs"
          :key="`p${i}`"
          :cx="X(p.scan[0])"
          :cy="Y(p.scan[1])"
          r="6"
          class="picked"
        />
      </DrawingFrame>
      <div v-for="(p, i) in pairs" :key="i" class="row line">
        <span class="grow">{{ i + 1 }}: {{ CORNERS[i] }}, in the vehicle ({{ tape }})</span>
        <input
          v-for="(word, axis) in ['forward', 'left', 'up']"
          :key="word"
          v-model="p.vehicle[axis]"
          class="number mono"
          :aria-label="`Point ${i + 1} ${word}`"
        />
      </div>
      <div class="row line">
        <label>One unit is <input v-model="scale" class="number mono" /> mm</label>
        <label
          >Cut at heights ({{ tape }}) <input v-model="heights" class="number wide mono"
        /></label>
        <label>
          Cut across, so far in ({{ tape }})
          <input v-model="across" class="number wide mono" />
        </label>
        <el-button @click="read">Cut again</el-button>
        <el-button v-if="pairs.length" @click="pairs = []">Other corners</el-button>
      </div>
      <p>
        <b>{{ cuts.found.length }} places of wall and front found</b
        ><template v-if="cuts.rms">, the corners agree to {{ cuts.rms.toFixed(1) }} mm</template>.
        Each counts by its own noise, beside the tape’s readings.
      </p>
      <el-button :disabled="!cuts.found.length" @click="add(cuts.patch)"
        >Add {{ cuts.found.length }} readings</el-button
      >
      <template v-if="cuts.sections.length">
        <p class="soft">
          Or take a wall as a curve, every few centimetres: all boards at it go by it then. Either
          its readings or its curve, not both. Cut across, a wall is a curve upwards, for what
          stands high.
        </p>
        <CurveList :curves="cuts.sections" @taken="open = false" />
      </template>
    </template>
  </el-dialog>
</template>

<style scoped>
.file {
  display: block;
  margin-top: 6px;
  min-height: var(--touch);
}
.sheet {
  fill: var(--ground);
  cursor: crosshair;
}
.dot {
  fill: var(--steel);
  pointer-events: none;
}
.picked {
  fill: var(--stop);
  pointer-events: none;
}
.line {
  flex-wrap: wrap;
  padding: 4px 0;
}
.grow {
  flex: 1 1 220px;
}
.number {
  width: 84px;
  min-height: 36px;
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
  background: var(--paper);
  color: var(--ink);
  padding: 0 6px;
}
.wide {
  width: 140px;
}
</style>
