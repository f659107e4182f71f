<script setup lang="ts">
import { computed, ref } from "vue";
import type { DeckPlan, Scene, Shape } from "@/api/types";
import DimLine from "@/drawing/DimLine.vue";
import { linePath, regionPath } from "@/drawing/path";
import { useWidth } from "@/drawing/useWidth";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";
import { names } from "./names";
import PullHandles from "./PullHandles.vue";
import { useHandles } from "./useHandles";

/** All furniture from above, from the side below it, and from behind beside that, at one scale. */
const props = defineProps<{
  picked: string;
  deck: DeckPlan | null;
  scene: Scene | null;
  sweep: Scene | null;
}>();
const emit = defineEmits<{ pick: [string] }>();
const store = useProject();
const { handles, pull } = useHandles(
  () => props.picked,
  () => s.value,
);
const view = useView();
const box = ref<HTMLElement | null>(null);
const width = useWidth(box, 740);

const PAD = 18;
const HEAD = 20;
const GAP = 26;
/** The evening and the choices are to be in sight below. */
const MOST = 500;
/** On a wide screen they are so high, as a share of its width. */
const ROOMY = 0.62;
const narrow = computed(() => width.value < 560);
const plan = computed(() => store.shown!);
const survey = computed(() => plan.value.survey);

const scenes = computed(() => [
  ...plan.value.evening.states.map((s) => s.scene),
  ...plan.value.evening.moves.flatMap((m) => m.steps.map((t) => t.scene)),
  ...(props.sweep ? [props.sweep] : []),
]);
/** How far everything reaches: along, across to either side, up. */
const reach = computed(() => {
  const rings = survey.value.bays.flatMap((b) => b.region.outer);
  const xs = rings.map((p) => p[0]!);
  const ys = rings.map((p) => p[1]!);
  const tops = [
    ...survey.value.roof.map((p) => p[1]!),
    ...[plan.value.views, ...scenes.value].flatMap((v) =>
      v.side.flatMap((s) => s.outline.outer.map((p) => p[1]!)),
    ),
    600,
  ];
  const moved = scenes.value.flatMap((v) => v.above.flatMap((s) => s.outline.outer));
  const all = moved.map((p) => p[0]!);
  return {
    // What is pulled out to the rear is drawn before the threshold.
    rear: Math.min(0, ...all),
    x: Math.max(...xs, ...all, survey.value.length?.value ?? 0, 1),
    right: Math.min(...ys, 0),
    left: Math.max(...ys, 0),
    z: Math.max(...tops),
  };
});
const across = computed(() => reach.value.left - reach.value.right);
const s = computed(() => {
  const r = reach.value;
  const long = r.x - r.rear;
  const wide = narrow.value ? long : long + across.value;
  const high = across.value + r.z;
  return Math.min(
    (width.value - 2 * PAD - (narrow.value ? 0 : GAP)) / wide,
    (Math.max(MOST, width.value * ROOMY) - 2 * HEAD - GAP - 2 * PAD) / high,
  );
});
// The three drawings: where each begins on the screen.
const planTop = HEAD + 8;
const sideTop = computed(() => planTop + across.value * s.value + GAP + HEAD + 14);
const sideBase = computed(() => sideTop.value + reach.value.z * s.value);
const behindLeft = computed(() =>
  narrow.value ? PAD : PAD + (reach.value.x - reach.value.rear) * s.value + GAP,
);
const behindBase = computed(() =>
  narrow.value ? sideBase.value + HEAD + GAP + reach.value.z * s.value : sideBase.value,
);
const height = computed(() => behindBase.value + 12);
const X = (x: number) => PAD + (x - reach.value.rear) * s.value;
const Y = (y: number) => planTop + (reach.value.left - y) * s.value;
const Z = (z: number) => sideBase.value - z * s.value;
const B = (y: number) => behindLeft.value + (y + reach.value.left) * s.value;
const BZ = (z: number) => behindBase.value - z * s.value;

const floor = computed(() => [
  [0, 0],
  ...survey.value.floor,
  [reach.value.x, survey.value.floor.at(-1)?.[1] ?? 0],
]);
const labels = computed(() =>
  names(above.value, plan.value, { X, Y, right: X(reach.value.x) + PAD }),
);
/** What has moved is drawn last, where it is now. */
function seen(view: "above" | "side" | "behind") {
  const moved = props.scene?.[view] ?? [];
  const still = plan.value.views[view].filter((o) => !moved.some((m) => m.board === o.board));
  return [...still, ...moved];
}
const above = computed(() => seen("above"));
const side = computed(() => seen("side"));
const behind = computed(() => seen("behind"));
const spans = computed(() => {
  const lines = props.deck?.lines ?? [];
  return lines.slice(1).map((x, i) => [lines[i]!, x] as const);
});
const chosen = computed(() => plan.value.ladder?.chosen ?? null);
/** What is picked is seen through what lies over it. */
const hidden = computed(() =>
  props.deck ? [] : plan.value.views.above.filter((o) => o.module === props.picked),
);
const cross = (x: number, y: number) => `M${x - 5} ${y - 5}l10 10M${x + 5} ${y - 5}l-10 10`;
/** Where the picked piece is held. */
const points = computed(
  () => plan.value.holds.find((h) => h.module === props.picked)?.points.map((p) => p.at) ?? [],
);
const marked = (shape: Shape) =>
  shape.module === props.picked || view.marked === shape.module || view.marked === shape.board;
</script>

<template>
  <div ref="box" class="views">
    <svg
      :width="width"
      :height="height"
      :viewBox="`0 0 ${width} ${height}`"
      role="group"
      aria-label="The furniture from above, from the side and from behind"
    >
      <g role="img" aria-label="From above">
        <text :x="PAD" :y="14" class="head">From above</text>
        <path
          v-for="(b, i) in survey.bays"
          :key="`bay${i}`"
          :d="regionPath(b.region, X, Y)"
          class="bay"
          :class="{ upper: i > 0 }"
        />
        <path v-for="d in survey.doors" :key="d.id" :d="linePath(d.line, X, Y)" class="door">
          <title>{{ d.name }}</title>
        </path>
        <path
          v-for="t in survey.things"
          :key="t.id"
          :d="regionPath(t.plan, X, Y)"
          class="thing"
          :class="{ marked: view.marked === t.id }"
        />
        <template v-if="view.compared">
          <path
            v-for="(o, i) in view.compared.plan.views.above"
            :key="`was${i}`"
            :d="regionPath(o.outline, X, Y)"
            class="was"
          />
        </template>
        <path
          v-for="(o, i) in sweep?.above ?? []"
          :key="`w${i}`"
          :d="regionPath(o.outline, X, Y)"
          class="swept"
        />
        <path
          v-for="o in above"
          :key="o.board"
          :d="regionPath(o.outline, X, Y)"
          class="board"
          :class="[o.role, { marked: marked(o) }]"
          @click="emit('pick', o.module)"
        />
        <path
          v-for="o in hidden"
          :key="`x${o.board}`"
          :d="regionPath(o.outline, X, Y)"
          class="hidden"
        />
        <template v-if="deck">
          <path
            v-for="(f, i) in deck.supports"
            :key="`s${i}`"
            :d="regionPath(f, X, Y)"
            class="under"
            :class="{ marked: view.marked === 'spans' }"
          />
          <DimLine
            v-for="[a, b] in spans"
            :key="a"
            :x1="X(a)"
            :x2="X(b)"
            :y1="Y(reach.right) + 16"
            :y2="Y(reach.right) + 16"
            :words="say(deck.span, store.system)"
          />
        </template>
        <path v-for="(p, i) in points" :key="`h${i}`" :d="cross(X(p[0]!), Y(p[1]!))" class="held" />
        <text
          v-for="l in labels.filter((l) => deck || l.module !== picked || !handles.length)"
          :key="l.module + l.text"
          :x="l.x"
          :y="l.y"
          :text-anchor="l.end ? 'end' : 'start'"
          class="label"
          @click="emit('pick', l.module)"
        >
          {{ l.text }}
        </text>
      </g>
      <PullHandles
        :handles="handles"
        :pull="pull"
        :right="[0, 1]"
        :up="[1, 1]"
        :axes="[0, 1]"
        :edge="narrow ? width : behindLeft"
        :to-x="X"
        :to-y="Y"
      />
      <g role="img" aria-label="From the side">
        <text :x="PAD" :y="sideTop - 8" class="head">From the side, rear at the left</text>
        <path :d="linePath(floor, X, Z)" class="shell" />
        <path v-if="survey.roof.length > 1" :d="linePath(survey.roof, X, Z)" class="shell" />
        <path
          v-for="d in survey.doors"
          :key="d.id"
          :d="`${linePath(d.outline, X, Z)}Z`"
          class="door"
        >
          <title>{{ d.name }}</title>
        </path>
        <rect
          v-for="t in survey.things"
          :key="t.id"
          :x="X(t.x[0]!)"
          :y="Z(t.z[1]!)"
          :width="Math.max(X(t.x[1]!) - X(t.x[0]!), 0)"
          :height="Math.max(Z(t.z[0]!) - Z(t.z[1]!), 0)"
          class="thing"
        />
        <path
          v-for="(o, i) in sweep?.side ?? []"
          :key="`w${i}`"
          :d="regionPath(o.outline, X, Z)"
          class="swept"
        />
        <path
          v-for="o in side"
          :key="o.board"
          :d="regionPath(o.outline, X, Z)"
          class="board"
          :class="[o.role, { marked: marked(o) }]"
          @click="emit('pick', o.module)"
        />
        <path v-for="(p, i) in points" :key="`h${i}`" :d="cross(X(p[0]!), Z(p[2]!))" class="held" />
        <template v-if="chosen">
          <line
            :x1="X(0)"
            :x2="X(reach.x)"
            :y1="Z(chosen.sleep_surface.value)"
            :y2="Z(chosen.sleep_surface.value)"
            class="mattress"
          />
          <line
            :x1="X(reach.x * 0.5)"
            :x2="X(reach.x * 0.5)"
            :y1="Z(chosen.seat.value)"
            :y2="Z(chosen.seat.value + chosen.headroom.value)"
            class="need"
          />
          <text
            :x="X(reach.x * 0.5)"
            text-anchor="middle"
            :y="Z(chosen.seat.value + chosen.headroom.value / 2)"
            class="figure"
          >
            {{ say(chosen.headroom, store.system) }} from the seat
          </text>
        </template>
      </g>
      <PullHandles
        :handles="handles"
        :pull="pull"
        :right="[0, 1]"
        :up="[2, 1]"
        :axes="[2]"
        :edge="narrow ? width : behindLeft"
        :to-x="X"
        :to-y="Z"
      />
      <g role="img" aria-label="From behind">
        <text :x="behindLeft" :y="narrow ? sideBase + HEAD + 12 : sideTop - 8" class="head">
          From behind
        </text>
        <path v-if="plan.views.section" :d="regionPath(plan.views.section, B, BZ)" class="bay" />
        <path
          v-for="(o, i) in sweep?.behind ?? []"
          :key="`w${i}`"
          :d="regionPath(o.outline, B, BZ)"
          class="swept"
        />
        <path
          v-for="o in behind"
          :key="o.board"
          :d="regionPath(o.outline, B, BZ)"
          class="board"
          :class="[o.role, { marked: marked(o) }]"
          @click="emit('pick', o.module)"
        />
      </g>
    </svg>
    <div v-if="!narrow" class="beside" :style="{ left: `${behindLeft}px`, top: '0' }">
      <slot />
    </div>
  </div>
  <slot v-if="narrow" />
</template>

<style scoped>
.views {
  position: relative;
  overflow: hidden;
}
.beside {
  position: absolute;
  right: 0;
}
svg {
  display: block;
  font-family: var(--font);
  font-size: 13.5px;
  fill: var(--ink);
}
.head {
  font-weight: 700;
}
.bay,
.shell {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 2;
}
.shell {
  fill: none;
}
.bay.upper {
  fill: none;
  stroke: var(--hair-strong);
  stroke-width: 1.2;
}
.hidden {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
  stroke-dasharray: 5 3;
  pointer-events: none;
}
.held {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
  pointer-events: none;
}
.door {
  fill: none;
  stroke: var(--steel);
  stroke-width: 1.6;
  stroke-dasharray: 7 4;
}
.thing {
  fill: var(--void);
  stroke: var(--hair-strong);
}
.was {
  fill: none;
  stroke: var(--ink-2);
  stroke-dasharray: 5 4;
}
/* All its way: lightly, one place over the other. */
.swept {
  fill: var(--steel);
  fill-opacity: 0.08;
  stroke: var(--steel);
  stroke-opacity: 0.5;
  stroke-width: 1;
  pointer-events: none;
}
.board {
  fill: var(--ply);
  stroke: var(--ply-edge);
  stroke-width: 1.2;
  cursor: pointer;
}
.board.marked {
  stroke: var(--ink);
  stroke-width: 2;
}
.under {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.2;
  stroke-dasharray: 4 3;
  pointer-events: none;
}
.under.marked {
  stroke: var(--stop);
}
.mattress {
  stroke: var(--ink-2);
  stroke-dasharray: 2 3;
}
.need {
  stroke: var(--steel);
  stroke-dasharray: 4 3;
}
/* Words stay legible over joints and holes. */
.label {
  font-weight: 700;
  cursor: pointer;
  paint-order: stroke;
  stroke: var(--ply);
  stroke-width: 5px;
}
.figure {
  font-family: var(--mono);
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 6px;
}
</style>
