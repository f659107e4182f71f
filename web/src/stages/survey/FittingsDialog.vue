<script setup lang="ts">
import { computed } from "vue";
import EntryList from "@/fields/EntryList.vue";
import type { Column } from "@/fields/columns";
import { useProject } from "@/store/project";

/** What furniture hangs on and comes through, and where heights hang from. */
const open = defineModel<boolean>({ required: true });
const store = useProject();
const survey = computed(() => store.project?.survey);
const tie = computed(() => store.shown?.survey.tie);

const NAME: Column = { field: "name", label: "Name", as: "text" };
const FIXINGS: Column[] = [
  NAME,
  {
    field: "kind",
    label: "Kind",
    as: "choice",
    options: [
      ["threaded_hole", "threaded hole"],
      ["tie_down", "tie-down ring"],
      ["seat_bolt", "seat bolt"],
      ["cargo_bolt", "cargo bolt"],
      ["rib", "rib for an insert"],
      ["floor_ply", "floor ply"],
    ],
  },
  { field: "at/0", label: "Forward of the threshold", as: "length" },
  { field: "at/1", label: "Left of the centre line", as: "length" },
  { field: "at/2", label: "Over the floor", as: "length" },
  { field: "thread", label: "Thread", as: "text" },
  { field: "depth", label: "Screw may go in by", as: "length" },
];
/** The rear opening is where everything is measured from. */
const beside = (entry: Record<string, unknown>) => entry !== survey.value?.openings?.rear;
const OPENINGS: Column[] = [
  NAME,
  {
    field: "side",
    label: "In the wall",
    as: "choice",
    options: [
      ["left", "left"],
      ["right", "right"],
    ],
    when: beside,
  },
  { field: "from", label: "Threshold to its rear edge", as: "length", when: beside },
  { field: "sill", label: "Its sill over the floor", as: "length", otherwise: 0, when: beside },
  { field: "heights", label: "Outline: its width also at", as: "heights" },
  { field: "depth", label: "Room behind to turn in", as: "length" },
  { field: "seat_first", label: "a seat is moved first", as: "flag" },
];
const SEATS: Column[] = [NAME, { field: "travel", label: "Slides by", as: "length" }];
const DATUMS: Column[] = [
  NAME,
  {
    field: "kind",
    label: "Kind",
    as: "choice",
    options: [
      ["floor", "load floor"],
      ["threshold", "threshold"],
      ["roof_tube", "roof tube"],
      ["sill", "sill"],
    ],
  },
  { field: "z", label: "Over the floor", as: "length" },
  { field: "hard", label: "hard", as: "flag", otherwise: true },
];
const LANDMARKS: Column[] = [
  NAME,
  { field: "inside/0", label: "Inside, forward", as: "length" },
  { field: "inside/1", label: "Inside, left", as: "length" },
  { field: "outside/0", label: "Below, forward", as: "length" },
  { field: "outside/1", label: "Below, left", as: "length" },
];
/** A new entry of each list, ready to be filled in. */
const NEW = {
  fixings: { name: "fixing", kind: "tie_down", at: [0, 0, 0], thread: "", depth: null },
  openings: { name: "side door", side: "left", depth: null, seat_first: false },
  seats: { name: "seat", travel: null },
  datums: { name: "roof tube", kind: "roof_tube", z: 1200, hard: true },
  landmarks: { name: "bolt", inside: [0, 0], outside: [0, 0] },
};
function outlineRear() {
  const value = { name: "rear opening", heights: [] };
  void store.change([{ op: "add", path: "/survey/openings/rear", value }]);
}
</script>

<template>
  <el-dialog v-model="open" title="Fixings, doors, seats, datums" width="min(860px, 94vw)">
    <p class="soft">
      Seats, belts and their anchors are safety parts: follow the vehicle maker and local rules.
      Before drilling, look behind: tanks, lines, wires.
    </p>
    <h3>Fixings: existing anchors and bolts first</h3>
    <EntryList
      list="/survey/fixings"
      :entries="survey?.fixings"
      :columns="FIXINGS"
      add="Add a fixing"
      :fresh="NEW.fixings"
    />
    <h3>Doors and hatches</h3>
    <p class="soft">
      Width at the floor, width at the top and height are asked for; where a door is neither upright
      nor straight, give heights at which to take its width as well.
    </p>
    <EntryList
      list="/survey/openings"
      :entries="survey?.openings"
      :columns="OPENINGS"
      add="Add a door"
      :fresh="NEW.openings"
    />
    <el-button v-if="!survey?.openings?.rear" @click="outlineRear"
      >Outline of the rear opening</el-button
    >
    <h3>Seats</h3>
    <EntryList
      list="/survey/seats"
      :entries="survey?.seats"
      :columns="SEATS"
      add="Add a seat"
      :fresh="NEW.seats"
    />
    <h3>Datums: what heights hang from</h3>
    <p class="soft">
      Start from a hard reference: a lining flexes, a frame tube does not. Level means to the
      vehicle.
    </p>
    <EntryList
      list="/survey/datums"
      :entries="survey?.datums"
      :columns="DATUMS"
      add="Add a datum"
      :fresh="NEW.datums"
    />
    <h3>Points seen from inside and from below</h3>
    <p class="soft">
      One bolt seen from both faces ties the underside to the inside; two fix the turn, three check
      each other.
      <template v-if="tie">
        The underside is turned by {{ tie.deg.toFixed(1) }}°; the points agree to
        {{ tie.worst.toFixed(1) }} mm.
      </template>
    </p>
    <EntryList
      list="/survey/landmarks"
      :entries="survey?.landmarks"
      :columns="LANDMARKS"
      add="Add a point"
      :fresh="NEW.landmarks"
    />
  </el-dialog>
</template>

<style scoped>
h3 {
  margin: 18px 0 6px;
}
</style>
