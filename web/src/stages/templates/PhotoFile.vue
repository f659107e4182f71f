<script setup lang="ts">
import { computed, onBeforeUnmount, ref } from "vue";
import { api, refusal, Refused, wasStopped } from "@/api/client";
import type { PhotoRead } from "@/api/types";
import { useProject } from "@/store/project";
import { say } from "@/units/text";
import { useTape } from "@/units/useTape";
import CurveList from "./CurveList.vue";

/** A photo of a template among the four marker sheets: its outline in true size. */
const emit = defineEmits<{ taken: [string] }>();
const store = useProject();
/** From sheet to sheet, as typed. */
const typed = [ref(""), ref("")] as const;
const PAIRS = ["1-3", "2-4"] as const;
const tapes = typed.map((t) => useTape(t));
const read = ref<PhotoRead | null>(null);
const error = ref("");
const step = ref<{ what: string; done: number; of: number } | null>(null);
let stop: AbortController | null = null;
onBeforeUnmount(() => stop?.abort());

/** What was typed, as the address takes it; nothing if one cannot be read. */
async function taped() {
  const all = await Promise.all(tapes.map((t, i) => (typed[i]!.value.trim() ? t.read() : null)));
  if (all.some((r) => r && "error" in r)) return null;
  return all.flatMap((r, i) => (r && !("error" in r) ? [`${PAIRS[i]}:${r.mm}`] : [])).join(",");
}
const wrong = (i: number) => {
  const r = tapes[i]!.result.value;
  return r && "error" in r ? refusal(r.error) : "";
};

async function look(file: File | null, ways: Record<string, string>) {
  const distances = await taped();
  if (distances === null) return;
  stop?.abort();
  const mine = (stop = new AbortController());
  error.value = "";
  step.value = { what: "The photo is sent", done: 0, of: 4 };
  try {
    const found = await api.photo(
      store.id,
      file,
      { taped: distances, ...ways },
      (what, done, of) => (step.value = { what, done, of }),
      mine.signal,
    );
    read.value = found;
    // The simulated tape types by itself.
    if (ways.simulated)
      found.taped.forEach((t, i) => (typed[i]!.value = `${Math.round(t.long.value)} mm`));
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    if (stop === mine && !wasStopped(e)) error.value = refusal(e.problem);
  } finally {
    if (stop === mine) step.value = null;
  }
}
function choose(e: Event) {
  const input = e.target as HTMLInputElement;
  const file = input.files?.[0] ?? null;
  // The same file can be chosen again.
  input.value = "";
  if (!file) return;
  read.value = null;
  void look(file, {});
}
function again(ways: Record<string, string> = {}) {
  if (read.value) void look(null, { print: read.value.print, ...ways });
}
function simulate() {
  read.value = null;
  void look(null, { simulated: "true" });
}
/** A tap on the photo says where the template is. */
function tap(e: MouseEvent) {
  const box = (e.currentTarget as Element).getBoundingClientRect();
  const own = read.value;
  if (!own || step.value || box.width === 0) return;
  const at = [
    ((e.clientX - box.left) / box.width) * own.size[0]!,
    ((e.clientY - box.top) / box.height) * own.size[1]!,
  ];
  again({ at: at.map((v) => Math.round(v)).join(",") });
}
const points = (ring: number[][]) => ring.map((p) => p.join(",")).join(" ");
/** Strokes and words are as thick on any photo. */
const thick = computed(() => (read.value?.size[0] ?? 1000) / 250);
const middle = (corners: number[][]) =>
  [0, 1].map((k) => corners.reduce((sum, c) => sum + c[k]!, 0) / corners.length);
function taken(id: string) {
  read.value = null;
  emit("taken", id);
}
</script>

<template>
  <details class="photo">
    <summary>A photo of a template</summary>
    <ol>
      <li>
        <a class="print" :href="api.exportUrl(store.id, 'markers.pdf')" download
          >Print the four marker sheets</a
        >
        and lay them flat beside the template's corners, on the floor that it lies on.
      </li>
      <li>
        Tape from cross to cross:
        <span v-for="(pair, i) in PAIRS" :key="pair" class="taped">
          <label :for="`taped-${pair}`">sheet {{ pair.replace("-", " to ") }}</label>
          <input
            :id="`taped-${pair}`"
            v-model="typed[i]!.value"
            class="mono"
            :aria-invalid="!!wrong(i)"
            @change="again()"
          />
          <span v-if="wrong(i)" class="wrong" role="alert">{{ wrong(i) }}</span>
        </span>
      </li>
      <li>
        Take it from above, as far up as you can reach, all four sheets whole in it.
        <label class="choose">
          The photo (JPEG, PNG)
          <input type="file" accept="image/jpeg,image/png" @change="choose" />
        </label>
        <el-button v-if="store.simulated" @click="simulate">Simulated photo</el-button>
      </li>
    </ol>
    <p v-if="step" role="status">
      {{ step.what }} …
      <progress :value="step.done" :max="step.of" aria-label="How far it is" />
    </p>
    <p v-if="error" class="wrong" role="alert">{{ error }}</p>
    <template v-if="read">
      <svg
        :viewBox="`0 0 ${read.size[0]} ${read.size[1]}`"
        role="img"
        aria-label="The photo, with the outline that was found"
        @click="tap"
      >
        <image
          :href="api.photoUrl(store.id, read.print)"
          :width="read.size[0]"
          :height="read.size[1]"
        />
        <polygon class="edge" :points="points(read.ring)" :stroke-width="thick" />
        <text
          v-for="(m, i) in read.middles"
          :key="i"
          class="side"
          :x="m[0]"
          :y="m[1]"
          :font-size="thick * 7"
          :stroke-width="thick * 2"
          text-anchor="middle"
          dominant-baseline="central"
        >
          side {{ i + 1 }}
        </text>
        <g v-for="s in read.sheets" :key="s.number">
          <polygon class="sheet" :points="points(s.corners)" :stroke-width="thick" />
          <text
            :x="middle(s.corners)[0]"
            :y="middle(s.corners)[1]"
            :font-size="thick * 9"
            text-anchor="middle"
            dominant-baseline="central"
          >
            {{ s.number }}
          </text>
        </g>
      </svg>
      <p class="soft">
        <template v-for="t in read.taped" :key="`${t.from}-${t.to}`">
          Sheet {{ t.from }} to {{ t.to }}: {{ say(t.long, store.system, true) }}.
        </template>
        The edge was seen to {{ say(read.rough, store.system, true) }}; its shape is sure to
        {{ say(read.unsure[0]!, store.system, true) }}, at its worst place to
        {{ say(read.unsure[1]!, store.system, true) }}. Is the line not round your template? Tap on
        the template.
      </p>
      <p v-for="w in read.warnings" :key="w" class="warn">{{ w }}</p>
      <CurveList :curves="read.curves" @taken="taken" />
    </template>
  </details>
</template>

<style scoped>
.photo {
  margin-top: 12px;
}
.photo summary {
  font-weight: 600;
}
.photo li {
  margin: 6px 0;
}
.taped,
.choose {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin-right: 14px;
}
.taped input {
  width: 110px;
  height: 36px;
  padding: 0 8px;
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
  background: var(--paper);
  color: var(--ink);
  font: 600 16px var(--mono);
}
@media (pointer: coarse) {
  .taped input {
    height: var(--touch);
  }
}
svg {
  display: block;
  width: 100%;
  max-width: 720px;
  cursor: crosshair;
}
.edge,
.sheet {
  fill: none;
  stroke: var(--stop);
}
.sheet {
  stroke: var(--stop);
}
text {
  fill: var(--tape);
  font-weight: 700;
}
.side {
  fill: var(--ink);
  stroke: var(--paper);
  paint-order: stroke;
}
.wrong {
  color: var(--stop);
}
.warn {
  font-weight: 600;
}
</style>
