<script setup lang="ts">
import { computed, ref, watch } from "vue";
import type { Plan } from "@/api/types";
import DrawingFrame from "@/drawing/DrawingFrame.vue";
import { linePath, regionPath } from "@/drawing/path";
import LengthField from "@/fields/LengthField.vue";
import { useProject } from "@/store/project";
import { escapePointer, freshId, say } from "@/units/text";

/** A board held in its place: tap an edge, say what is seen there. */
type Board = Plan["fits"][number];
type Place = Board["rounds"][number]["places"][number];
const props = defineProps<{ board: Board }>();
const store = useProject();
const WENT = [
  ["in", "lies in its place"],
  ["not_in", "does not go in"],
  ["rocks", "lies there and rocks"],
] as const;

const SAYS = [
  ["gap", "gap", "A gap of"],
  ["touches", "no gap", "No gap"],
  ["proud", "proud", "Proud by"],
] as const;

const round = computed(() => props.board.rounds.at(-1));
const at = computed(() => `/fits/${escapePointer(round.value?.id ?? "")}`);
const picked = ref("");
/** One that is looked at as usual, or one that a finger found between them. */
const place = computed(() => {
  const all = [...(round.value?.places ?? []), ...(round.value?.between ?? [])];
  return all.find((p) => p.key === picked.value);
});
/** The first place that nothing was said of, so that one question follows the other. */
function open(list: Place[], after = ""): string {
  const from = list.findIndex((p) => p.key === after) + 1;
  const order = [...list.slice(from), ...list.slice(0, from)];
  return (order.find((p) => !p.said) ?? order[0])?.key ?? "";
}
watch(
  () => `${props.board.board} ${round.value?.id}`,
  () => (picked.value = open(round.value?.places ?? [])),
  { immediate: true },
);
/** One press, one round. */
const busy = ref(false);
async function begin() {
  if (busy.value) return;
  busy.value = true;
  const id = freshId("f");
  const value = { ...props.board.fresh, when: new Date().toISOString() };
  const list = store.project?.fits ? [] : [{ op: "add" as const, path: "/fits", value: {} }];
  await store.change([...list, { op: "add", path: `/fits/${id}`, value }]);
  busy.value = false;
}
async function tell(says: "gap" | "proud" | "touches", mm: number | null) {
  const p = place.value;
  if (!p) return;
  const value = { ...p.answer, says, mm, aside: false };
  const next = open(round.value?.places ?? [], p.key);
  const kept = await store.change([
    { op: "add", path: `${at.value}/places/${escapePointer(p.key)}`, value },
  ]);
  // The person may have turned to another place meanwhile.
  if (kept && picked.value === p.key) picked.value = next;
}
function unsay() {
  void store.change([{ op: "remove", path: `${at.value}/places/${escapePointer(picked.value)}` }]);
}
function went(value: string) {
  void store.change([{ op: "add", path: `${at.value}/went`, value }]);
}
function remove() {
  void store.change([{ op: "remove", path: at.value }]);
}
const bounds = computed<[number, number, number, number]>(() => {
  const all = [props.board.outline, ...props.board.rounds.map((r) => r.outline)].flatMap(
    (r) => r.outer,
  );
  const xs = all.map((p) => p[0]!);
  const ys = all.map((p) => p[1]!);
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
});
/** Those between have none. */
const number = (p: Place) => {
  const i = round.value?.places.indexOf(p) ?? -1;
  return i < 0 ? "between" : i + 1;
};
/** What a thumb has to hit, in pixels: smaller where the dots lie close, so that it reaches between them. */
const thumb = (scale: number, mm: number, most: number) => Math.min(most, Math.max(mm * scale, 7));
const seen = computed(() =>
  props.board.seen === "above"
    ? "seen from above, the front to the right"
    : "seen from behind, the left to the left",
);
</script>

<template>
  <section class="fit">
    <div class="row spread">
      <h3>{{ board.mark }} held in its place</h3>
      <el-button
        v-if="!round || round.answered"
        :type="round ? 'default' : 'primary'"
        :disabled="busy"
        @click="begin"
      >
        {{ round ? "I hold the next one in place" : "I hold it in its place" }}
      </el-button>
    </div>
    <p v-if="!round" class="soft">
      Lay it on its supports, flush at the threshold and pushed against its neighbours, and say edge
      by edge where there is air and where it touches. The walls are known better from then on, and
      everything that hangs on them is corrected.
    </p>
    <template v-else>
      <div class="row ways" role="group" aria-label="How it went">
        <button
          v-for="[key, words] in WENT"
          :key="key"
          type="button"
          class="plain tab"
          :aria-pressed="round.went === key"
          @click="went(key)"
        >
          {{ words }}
        </button>
      </div>
      <p v-if="board.verdict" class="verdict" role="status">{{ board.verdict.sentence }}</p>
      <DrawingFrame
        v-slot="{ X, Y, s }"
        :bounds="bounds"
        :pad="40"
        :max-height="420"
        :label="`${board.mark} as it was cut, ${seen}, with what was seen along its edges`"
      >
        <path
          v-for="r in board.rounds.slice(0, -1)"
          :key="r.id"
          class="before"
          :d="regionPath(r.outline, X, Y)"
        />
        <path class="cut" :d="regionPath(round.outline, X, Y)" />
        <path class="wanted" :d="regionPath(board.outline, X, Y)" />
        <path
          v-for="(t, i) in board.verdict?.trims ?? []"
          :key="`t${i}`"
          class="trim"
          :d="linePath(t.line, X, Y)"
        />
        <path
          v-for="(t, i) in board.verdict?.strips ?? []"
          :key="`s${i}`"
          class="strip"
          :d="linePath(t.line, X, Y)"
        />
        <g
          v-for="p in round.between"
          :key="p.key"
          class="place finer"
          :class="{ picked: p.key === picked }"
          @click="picked = p.key"
        >
          <circle class="target" :cx="X(p.at[0]!)" :cy="Y(p.at[1]!)" :r="thumb(s, 15, 12)" />
          <circle class="dot" :cx="X(p.at[0]!)" :cy="Y(p.at[1]!)" :r="p.key === picked ? 9 : 1" />
        </g>
        <g
          v-for="p in round.places"
          :key="p.key"
          class="place"
          :class="{ said: p.said, doubted: p.doubted, picked: p.key === picked }"
          @click="picked = p.key"
        >
          <circle class="target" :cx="X(p.at[0]!)" :cy="Y(p.at[1]!)" :r="thumb(s, 45, 20)" />
          <circle class="dot" :cx="X(p.at[0]!)" :cy="Y(p.at[1]!)" :r="p.key === picked ? 9 : 5" />
          <text :x="X(p.at[0]!) + 18 * p.out[0]!" :y="Y(p.at[1]!) - 16 * p.out[1]! + 4">
            {{ p.tag ?? number(p) }}
          </text>
        </g>
      </DrawingFrame>
      <p class="soft small">
        filled: what was seen, air in {{ store.system }}, below zero proud · <i class="key" /> as it
        was cut · <i class="key dashed" /> as the plan would cut it now · {{ seen }}. Where the gap
        is wider or narrower than at the dots beside it, tap the edge there.
      </p>
      <div v-if="place" class="ask">
        <h4>{{ number(place) }} · {{ place.words }}</h4>
        <p>
          <template v-if="place.said">
            <b>{{ place.said }}</b>
            <span class="soft">
              · by all that is known now {{ say(place.expected, store.system, true) }}</span
            >
          </template>
          <span v-else class="soft">What do you see there?</span>
          <span v-if="place.doubted" class="wrong">
            · it does not go together with the rest: look again</span
          >
        </p>
        <div
          v-for="[says, words, label] in SAYS"
          :key="says"
          class="gauge"
          role="group"
          :aria-label="label"
        >
          <span class="soft">{{ words }}</span>
          <button
            v-if="says === 'touches'"
            type="button"
            class="plain tab wide"
            @click="tell(says, null)"
          >
            touches
          </button>
          <template v-else>
            <button
              v-for="g in board.gauge"
              :key="g.value"
              type="button"
              class="plain tab"
              @click="tell(says, g.value)"
            >
              {{ say(g, store.system) }}
            </button>
          </template>
        </div>
        <div v-if="place.said && place.answer.says !== 'touches'" class="row exact">
          <LengthField
            :label="`Exactly, ${place.words}`"
            :pointer="`${at}/places/${escapePointer(place.key)}/mm`"
            :value="place.answer.mm"
          />
          <el-button @click="unsay">Take it back</el-button>
        </div>
        <el-button v-else-if="place.said" @click="unsay">Take it back</el-button>
      </div>
      <details>
        <summary>{{ round.answered }} of {{ round.places.length }} places, as a list</summary>
        <ul class="list">
          <li v-for="p in round.places" :key="p.key">
            <button
              type="button"
              class="plain"
              :aria-pressed="p.key === picked"
              @click="picked = p.key"
            >
              {{ number(p) }} · {{ p.words }}: {{ p.said ?? "not looked at" }}
            </button>
          </li>
        </ul>
        <el-select
          v-if="round.between.length"
          v-model="picked"
          filterable
          placeholder="Another place on the edge"
          aria-label="Another place on the edge"
        >
          <el-option v-for="p in round.between" :key="p.key" :value="p.key" :label="p.words" />
        </el-select>
      </details>
      <el-button @click="remove">Forget this round</el-button>
    </template>
  </section>
</template>

<style scoped>
.fit {
  margin-top: 18px;
}
.ways {
  flex-wrap: wrap;
  gap: 6px;
  margin: 6px 0;
}
.tab {
  min-height: 40px;
  min-width: 44px;
  padding: 5px 10px;
  text-align: center;
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
}
.tab[aria-pressed="true"] {
  background: var(--ink);
  color: var(--on-ink);
}
.verdict {
  font-weight: 600;
  border-left: 8px solid var(--ply-edge);
  padding-left: 10px;
}
.before {
  fill: none;
  stroke: var(--hair-strong);
  stroke-width: 1;
}
.cut {
  fill: var(--ply);
  stroke: var(--ink);
  stroke-width: 1.5;
  fill-rule: evenodd;
}
.wanted {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1;
  stroke-dasharray: 6 4;
}
.trim,
.strip {
  fill: none;
  stroke-width: 7;
  stroke: var(--stop);
  opacity: 0.75;
}
.strip {
  stroke: var(--steel);
  stroke-dasharray: 3 3;
}
.place {
  cursor: pointer;
}
.target {
  fill: transparent;
}
.dot {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.said .dot {
  fill: var(--ink);
}
.picked .dot {
  stroke: var(--tape-edge, var(--ink));
  stroke-width: 3;
  fill: var(--tape);
}
.doubted .dot {
  stroke: var(--stop);
  stroke-width: 3;
}
text {
  font-size: 12px;
  font-family: var(--mono);
  text-anchor: middle;
}
.doubted text {
  fill: var(--stop);
  text-decoration: underline;
}
.ask {
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
  background: var(--paper);
  padding: 8px 12px;
}
.ask h4,
.ask p {
  margin: 0 0 8px;
}
.gauge {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px;
  margin-bottom: 8px;
}
.gauge .soft {
  width: 52px;
}
.wide {
  min-width: 120px;
}
.wrong {
  color: var(--stop);
}
.exact {
  align-items: end;
}
.list {
  list-style: none;
  padding: 0;
  columns: 2;
}
.key {
  display: inline-block;
  width: 24px;
  border-top: 2px solid var(--ink);
  vertical-align: middle;
}
.key.dashed {
  border-top-style: dashed;
  border-top-width: 1px;
}
@media (max-width: 700px) {
  .list {
    columns: 1;
  }
}
</style>
