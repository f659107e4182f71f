<script setup lang="ts">
import { computed, ref } from "vue";
import type { Ladder, RungView } from "@/api/types";
import { useWidth } from "@/drawing/useWidth";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";
import { seated } from "./seated";
import { useDeckDrag } from "./useDeckDrag";

/** The ladder: a tape from floor to roof, gear standing, people hanging from the roof, the deck
 * between them to be dragged. */
const props = defineProps<{ ladder: Ladder; previewing: boolean }>();
const emit = defineEmits<{ preview: [number]; choose: [number] }>();
const store = useProject();
const view = useView();

const box = ref<HTMLElement | null>(null);
const width = useWidth(box, 740);

const TOP = 30;
const narrow = computed(() => width.value < 560);
const height = computed(() => (narrow.value ? 440 : 560));
const floorY = computed(() => height.value - 34);
const left = computed(() => 62);
const right = computed(() => width.value - (narrow.value ? 110 : 236));
const roof = computed(() => props.ladder.floor_to_roof.value);
const s = computed(() => (floorY.value - TOP) / roof.value);
const Y = (mm: number) => floorY.value - mm * s.value;

const ticks = computed(() => {
  const inches = store.system === "in";
  const step = inches ? 25.4 : 10;
  const every = inches ? 6 : 10;
  const out: { y: number; long: boolean; text: string }[] = [];
  for (let i = 0; i * step <= roof.value; i++) {
    const long = i % every === 0;
    if (!long && i % (every / 2) !== 0 && s.value * step < 4) continue;
    out.push({ y: Y(i * step), long, text: long && i > 0 ? String(i) : "" });
  }
  return out;
});
const gear = computed(() => {
  const n = props.ladder.items.length;
  const inset = (side: string) =>
    fixed.value.filter((f) => f.side === side).reduce((most, f) => most + f.w + 3, 0);
  const from = left.value + inset("left");
  const w = (right.value - inset("right") - from) / Math.max(n, 1);
  return props.ladder.items.map((item, i) => ({
    ...item,
    x: from + i * w + 5,
    w: Math.max(w - 10, 12),
  }));
});
const people = computed(() => {
  const chosen = props.ladder.chosen;
  if (!chosen) return [];
  const n = props.ladder.people.length;
  const w = (right.value - left.value) / Math.max(n, 1);
  return props.ladder.people.map((p, i) => ({
    ...p,
    x: left.value + i * w,
    w,
    crown: chosen.seat.value + p.sitting.value,
    seat: chosen.seat.value,
    over: (p.spare?.value ?? 0) < 0,
    close: store.shown?.findings.some((f) => f.id === `sits.${p.id}` && f.level === "look"),
    shape: seated(
      left.value + i * w + Math.min(w * 0.12, 40),
      Y(chosen.seat.value),
      p.sitting.value * s.value,
      w * 0.86,
    ),
  }));
});

/** Wells and folded seats: narrow blocks at their own side of the drawing, up to their tops. */
const fixed = computed(() =>
  props.ladder.fixed.map((f, i) => {
    const before = props.ladder.fixed.slice(0, i).filter((o) => o.side === f.side).length;
    const w = narrow.value ? 8 : 14;
    const at = before * (w + 3);
    return { ...f, w, x: f.side === "left" ? left.value + at : right.value - w - at };
  }),
);

/** Rungs with the chosen height among them, labels pushed apart so that none covers another. */
const labels = computed(() => {
  const rows: { rung: RungView; y: number; at: number; here: boolean }[] = props.ladder.rungs.map(
    (rung) => ({
      rung,
      at: Y(rung.underside.value),
      y: Y(rung.underside.value),
      here: rung.chosen,
    }),
  );
  const chosen = props.ladder.chosen;
  if (chosen && !rows.some((r) => r.here)) {
    const y = Y(chosen.underside.value);
    rows.push({ rung: chosen, at: y, y, here: true });
  }
  rows.sort((a, b) => b.at - a.at);
  for (let i = 1; i < rows.length; i++) rows[i]!.y = Math.min(rows[i]!.y, rows[i - 1]!.y - 27);
  return rows;
});

const { grab, drag, drop, key } = useDeckDrag({
  ladder: () => props.ladder,
  heightAt: (clientY) =>
    (floorY.value - (clientY - (box.value?.getBoundingClientRect().top ?? 0))) / s.value,
  scale: () => s.value,
  preview: (u) => emit("preview", u),
  choose: (u) => emit("choose", u),
});
/** Beside the head where there is room, else below it. */
function wordsAt(p: { crown: number; shape: { head: { ry: number } } }): number {
  return Math.max(Y(p.crown), TOP) + (narrow.value ? 2 * p.shape.head.ry : 0);
}
/** What of a label fits beside its figure. */
function short(label: string, figure: string): string {
  if (narrow.value) return "";
  const most = Math.floor((width.value - right.value - 44 - 9 * figure.length) / 6.5);
  return label.length > most ? `${label.slice(0, most - 1)}…` : label;
}
</script>

<template>
  <div ref="box" class="ladder">
    <svg
      :width="width"
      :height="height"
      :viewBox="`0 0 ${width} ${height}`"
      role="group"
      aria-label="Height ladder"
    >
      <rect x="4" :y="Y(roof)" width="40" :height="floorY - Y(roof)" class="rule" />
      <g v-for="t in ticks" :key="t.y">
        <line :x1="t.long ? 31 : 37" x2="44" :y1="t.y" :y2="t.y" class="tick" />
        <text v-if="t.text" x="6" :y="t.y + 5" class="tick-text">{{ t.text }}</text>
      </g>
      <text x="4" :y="floorY + 22" class="soft">{{ store.system === "in" ? "inches" : "cm" }}</text>
      <path
        :d="`M${left} ${Y(roof) + 3}Q${(left + right) / 2} ${Y(roof) - 8} ${right} ${Y(roof) + 3}`"
        class="roof"
      />
      <text :x="left + 4" :y="TOP - 14" class="soft">
        {{
          ladder.soft ? "roof lining, soft: hung from the tube behind it" : "roof, lowest measured"
        }}
        {{ say(ladder.floor_to_roof, store.system) }}
      </text>
      <line :x1="left" :x2="right" :y1="floorY" :y2="floorY" class="roof" />
      <text :x="right" :y="floorY + 20" text-anchor="end" class="soft">load floor</text>

      <g v-for="f in fixed" :key="f.id">
        <title>{{ f.name }}, top {{ say(f.top, store.system, true) }}</title>
        <rect
          :x="f.x"
          :y="Y(f.top.value)"
          :width="f.w"
          :height="Math.max(Y(f.from) - Y(f.top.value), 2)"
          class="fixed"
          :class="{ marked: view.marked === f.id }"
        />
      </g>
      <g v-for="g in gear" :key="g.id">
        <rect
          :x="g.x"
          :y="Y(g.h.value)"
          :width="g.w"
          :height="floorY - Y(g.h.value)"
          class="gear"
          :class="{ over: g.fits === false, marked: view.marked === g.id }"
        />
        <line
          v-if="g.clearance.value > 0"
          :x1="g.x"
          :x2="g.x + g.w"
          :y1="Y(g.needs.value)"
          :y2="Y(g.needs.value)"
          class="need"
        />
        <foreignObject
          v-if="floorY - Y(g.h.value) > 30"
          :x="g.x + 2"
          :y="floorY - (narrow ? 26 : 54)"
          :width="g.w - 4"
          height="54"
        >
          <p class="gear-name">
            <template v-if="!narrow">{{ g.name }}<br /></template
            ><b>{{ say(g.needs, store.system) }}</b>
          </p>
        </foreignObject>
      </g>

      <g
        v-for="p in people"
        :key="p.id"
        class="person"
        :class="{ over: p.over, close: p.close, marked: view.marked === p.id }"
      >
        <path v-if="!narrow" :d="p.shape.body" />
        <path v-else :d="`M${p.shape.head.cx} ${Y(p.crown)}V${Y(p.seat)}`" />
        <ellipse v-bind="p.shape.head" />
        <line :x1="p.x + 20" :x2="p.x + p.w * 0.6" :y1="Y(p.crown)" :y2="Y(p.crown)" class="need" />
        <text :x="narrow ? p.x + 4 : p.shape.beside" :y="wordsAt(p) + 20" class="name">
          {{ p.name }}
        </text>
        <text :x="narrow ? p.x + 4 : p.shape.beside" :y="wordsAt(p) + 38" class="figure">
          {{ p.over ? "" : "+" }}{{ say(p.spare, store.system) }}{{ narrow ? "" : " over head" }}
        </text>
      </g>

      <g
        v-if="ladder.chosen"
        class="deck"
        tabindex="0"
        role="slider"
        aria-label="Height of the deck's underside"
        aria-orientation="vertical"
        :aria-valuemin="0"
        :aria-valuemax="Math.floor(roof)"
        :aria-valuenow="Math.round(ladder.chosen.underside.value)"
        :aria-valuetext="say(ladder.chosen.underside, store.system, true)"
        @pointerdown="grab"
        @pointermove="drag"
        @pointerup="drop"
        @pointercancel="drop"
        @keydown="key"
      >
        <rect
          :x="left"
          :y="Y(ladder.chosen.sleep_surface.value)"
          :width="right - left"
          :height="
            Math.max(
              Y(ladder.chosen.underside.value + ladder.deck.value) -
                Y(ladder.chosen.sleep_surface.value),
              0,
            )
          "
          class="mattress"
        />
        <rect
          :x="left"
          :y="Y(ladder.chosen.underside.value + ladder.deck.value)"
          :width="right - left"
          :height="Math.max(ladder.deck.value * s, 5)"
          class="ply"
        />
        <path
          :d="`M${left} ${Y(ladder.chosen.underside.value + ladder.deck.value / 2)}H${right}`"
          class="ply-line"
        />
        <rect
          :x="left"
          :y="Y(ladder.chosen.sleep_surface.value) - 8"
          :width="right - left"
          :height="Y(ladder.chosen.underside.value) - Y(ladder.chosen.sleep_surface.value) + 20"
          class="grip"
        />
        <text
          v-if="!narrow"
          :x="right - 8"
          :y="Y(ladder.chosen.underside.value + ladder.deck.value) - 6"
          text-anchor="end"
          class="soft"
        >
          mattress {{ say(ladder.mattress, store.system) }}, sat on
          {{ say(ladder.sat_on, store.system) }}
        </text>
      </g>

      <text :x="right + 22" :y="TOP - 14" class="head">Rungs</text>
      <g
        v-for="l in labels"
        :key="l.rung.underside.value"
        class="rung"
        :class="[`of-${l.rung.kind}`, { here: l.here }]"
        role="button"
        tabindex="0"
        :aria-label="`${say(l.rung.underside, store.system, true)}: ${l.rung.label}`"
        :aria-pressed="l.here"
        @click="emit('choose', l.rung.underside.value)"
        @keydown.enter="emit('choose', l.rung.underside.value)"
        @keydown.space.prevent="emit('choose', l.rung.underside.value)"
      >
        <title>{{ l.rung.label }}</title>
        <path :d="`M${right + 2} ${l.at}h5L${right + 16} ${l.y}h4`" class="leader" />
        <rect :x="right + 20" :y="l.y - 13" :width="width - right - 22" height="26" class="plate" />
        <text :x="right + 26" :y="l.y + 5">
          <tspan class="figure">{{ say(l.rung.underside, store.system) }}</tspan>
          <tspan dx="8">{{ short(l.rung.label, say(l.rung.underside, store.system)) }}</tspan>
        </text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.ladder {
  width: 100%;
  overflow: hidden;
  touch-action: pan-y;
}
svg {
  display: block;
  font-family: var(--font);
  font-size: 14px;
  fill: var(--ink);
}
.rule {
  fill: var(--tape);
  stroke: var(--tick);
  stroke-width: 1.2;
}
.tick {
  stroke: var(--tick);
  stroke-width: 1;
}
.tick-text {
  font-family: var(--mono);
  font-size: 12.5px;
}
.roof {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.5;
}
.head {
  font-weight: 700;
}
.gear {
  fill: var(--gear);
  stroke: var(--steel);
  stroke-width: 1.5;
}
.fixed {
  fill: var(--steel);
  fill-opacity: 0.35;
  stroke: var(--steel);
  stroke-width: 1.5;
}
.fixed.marked {
  stroke-width: 4;
}
.gear.over {
  fill: none;
  stroke: var(--stop);
  stroke-width: 2;
  stroke-dasharray: 6 4;
}
.gear.marked {
  stroke-width: 4;
}
.gear-name {
  font-size: 12.5px;
  line-height: 1.2;
  text-align: center;
  color: var(--ink);
}
.need {
  stroke: var(--steel);
  stroke-dasharray: 3 3;
}
.person path,
.person ellipse {
  fill: var(--fine);
  fill-opacity: 0.13;
  stroke: var(--fine);
  stroke-width: 1.8;
}
.person .need {
  stroke: var(--fine);
}
.person text {
  fill: var(--fine);
}
.person.over path,
.person.over ellipse,
.person.over .need {
  stroke: var(--stop);
  fill: var(--stop);
}
.person.close path,
.person.close ellipse,
.person.close .need {
  stroke: var(--look);
  fill: var(--look);
}
.person.close text {
  fill: var(--look);
}
.person.over text {
  fill: var(--stop);
}
.person.marked path {
  stroke-width: 3.5;
}
.name {
  font-weight: 700;
}
.deck {
  cursor: ns-resize;
  touch-action: none;
}
.deck:focus-visible .grip {
  stroke: var(--ink);
  stroke-width: 2.5;
}
.deck:focus {
  outline: none;
}
.mattress {
  fill: var(--paper);
  fill-opacity: 0.72;
  stroke: var(--ink-2);
  stroke-width: 1.2;
  rx: 7px;
}
.ply {
  fill: var(--ply);
  stroke: var(--ply-edge);
  stroke-width: 1.5;
}
.ply-line {
  stroke: var(--ply-edge);
  stroke-width: 1;
}
.grip {
  fill: transparent;
}
.rung {
  cursor: pointer;
}
.rung:focus {
  outline: none;
}
.rung:focus-visible .plate {
  stroke: var(--ink);
  stroke-width: 2.5;
}
.leader {
  fill: none;
  stroke: var(--hair-strong);
  stroke-width: 1.3;
}
.plate {
  fill: transparent;
}
.rung:hover .plate {
  fill: var(--ground);
}
.rung.of-person text {
  fill: var(--fine);
}
.rung.here .plate,
.rung.here:hover .plate {
  fill: var(--ink);
}
.rung.here text {
  fill: var(--on-ink);
}
.rung.here .leader {
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
