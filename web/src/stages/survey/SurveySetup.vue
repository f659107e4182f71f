<script setup lang="ts">
import { ref } from "vue";
import EntryList from "@/fields/EntryList.vue";
import LengthField from "@/fields/LengthField.vue";
import type { Column } from "@/fields/columns";
import { useProject } from "@/store/project";
import type { Tape } from "@/api/client";
import { escapePointer, freshId, show } from "@/units/text";
import { useTape } from "@/units/useTape";

/** Where to measure besides the usual places, and what stands in the way. */
const open = defineModel<boolean>({ required: true });
const store = useProject();
const place = ref("");
const ridge = ref(false);
const where = ref<"both" | "left" | "right">("both");
const height = ref("");
const thing = ref("");
const error = ref("");
const placeTape = useTape(place);
const heightTape = useTape(height);

const KINDS = [
  ["wheel_well", "wheel well"],
  ["post", "post, pillar, trim"],
  ["seat_base", "seat base"],
  ["belt", "belt or its anchor"],
  ["bolt", "bolt, bracket"],
  ["hump", "hump in the floor"],
  ["step", "step in the floor"],
  ["folded_seat", "back of a folded seat"],
  ["pipe", "pipe"],
  ["power_box", "power box"],
  ["gear_lever", "gear lever"],
  ["door", "door, shut"],
  ["latch", "latch"],
  ["other", "other"],
] as const;
const FORMS = [
  ["box", "upright box"],
  ["sloped", "sloping sides"],
  ["rounded", "arched"],
  ["free", "stands free"],
] as const;
const COVERS = [
  ["may", "may be covered"],
  ["reach", "must stay reachable"],
  ["keep", "must not be touched"],
] as const;
const ENDS = [
  ["square", "square"],
  ["bevelled", "cut off"],
  ["rounded", "rounded"],
] as const;
const WHERE = [
  ["both", "both walls"],
  ["left", "left wall"],
  ["right", "right wall"],
] as const;
const SIDES = [
  ["left", "left"],
  ["right", "right"],
] as const;
const THINGS: Column[] = [
  { field: "name", label: "Name", as: "text" },
  { field: "kind", label: "Kind", as: "choice", options: KINDS },
  { field: "side", label: "Side", as: "choice", options: SIDES },
  { field: "form", label: "Form", as: "choice", options: FORMS, otherwise: "box" },
  {
    field: "ends",
    label: "Its ends, from above",
    as: "choice",
    options: ENDS,
    otherwise: "square",
  },
  {
    field: "heights",
    label: "Its slope changes at",
    as: "heights",
    when: (t) => t.form === "sloped" || t.form === "free",
  },
  {
    field: "slope",
    label: "Its top rises forward by",
    as: "number",
    unit: "°",
    otherwise: 0,
    when: (t) => ["folded_seat", "hump", "step"].includes(String(t.kind)),
  },
  { field: "cover", label: "Cover", as: "choice", options: COVERS, otherwise: "may" },
  { field: "clearance", label: "Clearance it wants", as: "length", otherwise: 0 },
  { field: "sweep", label: "Moves by (lever, slide)", as: "length", otherwise: 0 },
];

async function mm(tape: ReturnType<typeof useTape>) {
  const answer = await tape.read();
  if (!answer || "error" in answer) {
    error.value = answer?.error.detail ?? "";
    return null;
  }
  error.value = "";
  return answer.mm;
}
/** A length in the project's own system. */
function said(tape: Tape | null): string {
  if (!tape || "error" in tape) return height.value.trim();
  return store.system === "in" ? `${tape.nearest} in` : `${show(tape.mm)} mm`;
}
async function addStation() {
  const x = await mm(placeTape);
  if (x === null) return;
  await store.change([
    {
      op: "add",
      path: `/survey/stations/${freshId("x")}`,
      value: { x, ridge: ridge.value, side: where.value === "both" ? null : where.value },
    },
  ]);
  place.value = "";
}
async function addLevel() {
  const z = await mm(heightTape);
  if (z === null) return;
  const name = `${said(heightTape.result.value)} over the floor`;
  await store.change([{ op: "add", path: `/survey/levels/${freshId("z")}`, value: { z, name } }]);
  height.value = "";
}
async function addThing() {
  const value = { kind: "post", side: "left", name: thing.value.trim() };
  await store.change([{ op: "add", path: `/survey/things/${freshId("t")}`, value }]);
  thing.value = "";
}
/** Its readings go with a thing. */
const readingsOf = (id: string) =>
  Object.entries(store.project?.survey?.readings ?? {})
    .filter(([, r]) => r.quantity.of === "thing" && r.quantity.id === id)
    .map(([key]) => ({ op: "remove" as const, path: `/survey/readings/${escapePointer(key)}` }));
function mark(path: string, value: boolean) {
  void store.change([{ op: "add", path, value }]);
}
function remove(path: string) {
  void store.change([{ op: "remove", path }]);
}
</script>

<template>
  <el-dialog v-model="open" title="Places and things" width="min(860px, 94vw)">
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <h3>Things in the way</h3>
    <EntryList
      list="/survey/things"
      :entries="store.project?.survey?.things"
      :columns="THINGS"
      :with="readingsOf"
    />
    <form class="row" @submit.prevent="addThing">
      <el-input v-model="thing" class="grow" placeholder="seat belt post" aria-label="New thing" />
      <el-button native-type="submit" :disabled="!thing.trim()">Add a thing</el-button>
    </form>

    <h3>Heights at which the walls are measured</h3>
    <div v-for="(l, id) in store.project?.survey?.levels" :key="id" class="row line">
      <span class="grow">{{ l.name }}</span>
      <LengthField
        hide-label
        :label="`Height of ${l.name}`"
        :pointer="`/survey/levels/${escapePointer(String(id))}/z`"
        :value="l.z"
      />
      <el-checkbox
        :model-value="l.ridge ?? false"
        @change="mark(`/survey/levels/${escapePointer(String(id))}/ridge`, Boolean($event))"
        >crease</el-checkbox
      >
      <el-button
        v-if="l.z > 0"
        :aria-label="`Remove height ${l.name}`"
        @click="remove(`/survey/levels/${escapePointer(String(id))}`)"
      >
        Remove
      </el-button>
    </div>
    <form class="row" @submit.prevent="addLevel">
      <el-input
        v-model="height"
        class="grow"
        :placeholder="store.system === 'in' ? '20' : '500'"
        aria-label="New height"
      />
      <el-button native-type="submit" :disabled="!height.trim()">Add a height</el-button>
    </form>

    <h3>More places along the bay</h3>
    <p class="soft">
      The usual ones are the threshold, a third, two thirds and the front end. Lay a straight edge
      along the wall: where it rocks, the wall has a ridge. Where it gapes, add a place.
    </p>
    <div v-for="(s, id, i) in store.project?.survey?.stations" :key="id" class="row line">
      <LengthField
        hide-label
        :label="`Place ${i + 1} along the bay`"
        :pointer="`/survey/stations/${escapePointer(String(id))}/x`"
        :value="s.x"
      />
      <span class="grow"
        ><span class="soft"
          >{{ s.ridge ? "ridge" : "" }} {{ s.side ? `${s.side} only` : "" }}</span
        ></span
      >
      <el-button
        :aria-label="`Remove place ${i + 1}`"
        @click="remove(`/survey/stations/${escapePointer(String(id))}`)"
      >
        Remove
      </el-button>
    </div>
    <form class="row" @submit.prevent="addStation">
      <el-input
        v-model="place"
        class="grow"
        :placeholder="store.system === 'in' ? '37 1/2' : '950'"
        aria-label="New place"
      />
      <el-checkbox v-model="ridge">a ridge: the wall bends sharply</el-checkbox>
      <el-select v-model="where" aria-label="Which wall" class="narrow">
        <el-option v-for="[key, word] in WHERE" :key="key" :value="key" :label="word" />
      </el-select>
      <el-button native-type="submit" :disabled="!place.trim()">Add a place</el-button>
    </form>

    <h3>Your tape</h3>
    <LengthField
      label="One reading is good to about (standard deviation)"
      pointer="/survey/sd"
      :value="store.project?.survey?.sd"
    />
  </el-dialog>
</template>

<style scoped>
h3 {
  margin: 16px 0 6px;
}
h3:first-of-type {
  margin-top: 0;
}
.line {
  padding: 4px 0;
  border-bottom: 1px solid var(--hair);
}
form {
  margin-top: 8px;
}
.grow {
  flex: 1 1 160px;
}
.narrow {
  width: 130px;
}
.line {
  flex-wrap: wrap;
}
</style>
