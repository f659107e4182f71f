<script setup lang="ts">
import { computed } from "vue";
import ChoiceField from "@/fields/ChoiceField.vue";
import LengthField from "@/fields/LengthField.vue";
import PlainField from "@/fields/PlainField.vue";
import { useProject } from "@/store/project";
import { escapePointer, freshId } from "@/units/text";

/** What furniture hangs on and comes through, and where heights hang from. */
const open = defineModel<boolean>({ required: true });
const store = useProject();
const survey = computed(() => store.project?.survey);
const tie = computed(() => store.shown?.survey.tie);

const FIXINGS = [
  ["threaded_hole", "threaded hole"],
  ["tie_down", "tie-down ring"],
  ["seat_bolt", "seat bolt"],
  ["cargo_bolt", "cargo bolt"],
  ["rib", "rib for an insert"],
  ["floor_ply", "floor ply"],
] as const;
const DATUMS = [
  ["floor", "load floor"],
  ["threshold", "threshold"],
  ["roof_tube", "roof tube"],
  ["sill", "sill"],
] as const;
/** A new entry of each list, ready to be filled in. */
const NEW = {
  fixings: { name: "fixing", kind: "tie_down", at: [0, 0, 0], thread: "", depth: null },
  openings: { name: "side door", depth: null, seat_first: false },
  seats: { name: "seat", travel: null, folded_height: null, folded_slope: null },
  datums: { name: "roof tube", kind: "roof_tube", z: 1200, hard: true },
  landmarks: { name: "bolt", inside: [0, 0], outside: [0, 0] },
};
type List = keyof typeof NEW;

function add(list: List) {
  void store.change([
    { op: "add", path: `/survey/${list}/${freshId(list[0]!)}`, value: NEW[list] },
  ]);
}
function remove(list: List, id: string) {
  void store.change([{ op: "remove", path: `/survey/${list}/${escapePointer(id)}` }]);
}
function flag(path: string, value: boolean) {
  void store.change([{ op: "add", path, value }]);
}
const at = (list: List, id: string | number, field: string) =>
  `/survey/${list}/${escapePointer(String(id))}/${field}`;
const AXES = ["in from the threshold", "left of the centre line", "over the floor"];
</script>

<template>
  <el-dialog v-model="open" title="Fixings, doors, seats, datums" width="min(860px, 94vw)">
    <p class="soft">
      Seats, belts and their anchors are safety parts: follow the vehicle maker and local rules.
      Before drilling, look behind: tanks, lines, wires.
    </p>
    <h3>Fixings: existing anchors and bolts first</h3>
    <div v-for="(f, id) in survey?.fixings" :key="id" class="row line">
      <PlainField label="Name" kind="text" :pointer="at('fixings', id, 'name')" :value="f.name" />
      <ChoiceField
        label="Kind"
        :pointer="at('fixings', id, 'kind')"
        :value="f.kind"
        :options="FIXINGS"
      />
      <LengthField
        v-for="(axis, i) in AXES"
        :key="axis"
        :label="axis"
        :pointer="at('fixings', id, `at/${i}`)"
        :value="f.at[i]"
      />
      <PlainField
        label="Thread"
        kind="text"
        :pointer="at('fixings', id, 'thread')"
        :value="f.thread"
      />
      <LengthField
        label="Screw may go in by"
        :pointer="at('fixings', id, 'depth')"
        :value="f.depth"
      />
      <el-button :aria-label="`Remove ${f.name}`" @click="remove('fixings', String(id))"
        >Remove</el-button
      >
    </div>
    <el-button @click="add('fixings')">Add a fixing</el-button>

    <h3>Doors and hatches besides the rear one</h3>
    <div v-for="(o, id) in survey?.openings" :key="id" class="row line">
      <PlainField label="Name" kind="text" :pointer="at('openings', id, 'name')" :value="o.name" />
      <LengthField
        label="Room behind to turn in"
        :pointer="at('openings', id, 'depth')"
        :value="o.depth"
      />
      <el-checkbox
        :model-value="o.seat_first ?? false"
        @change="flag(at('openings', id, 'seat_first'), Boolean($event))"
        >a seat is moved first</el-checkbox
      >
      <el-button :aria-label="`Remove ${o.name}`" @click="remove('openings', String(id))"
        >Remove</el-button
      >
    </div>
    <el-button @click="add('openings')">Add a door</el-button>

    <h3>Seats</h3>
    <div v-for="(s, id) in survey?.seats" :key="id" class="row line">
      <PlainField label="Name" kind="text" :pointer="at('seats', id, 'name')" :value="s.name" />
      <LengthField label="Slides by" :pointer="at('seats', id, 'travel')" :value="s.travel" />
      <LengthField
        label="Folded, over the floor"
        :pointer="at('seats', id, 'folded_height')"
        :value="s.folded_height"
      />
      <PlainField
        label="Folded slope"
        kind="number"
        unit="°"
        :pointer="at('seats', id, 'folded_slope')"
        :value="s.folded_slope"
      />
      <el-button :aria-label="`Remove ${s.name}`" @click="remove('seats', String(id))"
        >Remove</el-button
      >
    </div>
    <el-button @click="add('seats')">Add a seat</el-button>

    <h3>Datums: what heights hang from</h3>
    <p class="soft">
      Start from a hard reference: a lining flexes, a frame tube does not. Level means to the
      vehicle.
    </p>
    <div v-for="(d, id) in survey?.datums" :key="id" class="row line">
      <PlainField label="Name" kind="text" :pointer="at('datums', id, 'name')" :value="d.name" />
      <ChoiceField
        label="Kind"
        :pointer="at('datums', id, 'kind')"
        :value="d.kind"
        :options="DATUMS"
      />
      <LengthField label="Over the floor" :pointer="at('datums', id, 'z')" :value="d.z" />
      <el-checkbox
        :model-value="d.hard ?? true"
        @change="flag(at('datums', id, 'hard'), Boolean($event))"
        >hard</el-checkbox
      >
      <el-button :aria-label="`Remove ${d.name}`" @click="remove('datums', String(id))"
        >Remove</el-button
      >
    </div>
    <el-button @click="add('datums')">Add a datum</el-button>

    <h3>Points seen from inside and from below</h3>
    <p class="soft">
      One bolt seen from both faces ties the underside to the inside; two fix the turn, three check
      each other.
      <template v-if="tie">
        The underside is turned by {{ tie.deg.toFixed(1) }}°; the points agree to
        {{ tie.worst.toFixed(1) }} mm.
      </template>
    </p>
    <div v-for="(l, id) in survey?.landmarks" :key="id" class="row line">
      <PlainField label="Name" kind="text" :pointer="at('landmarks', id, 'name')" :value="l.name" />
      <LengthField
        label="Inside, in"
        :pointer="at('landmarks', id, 'inside/0')"
        :value="l.inside[0]"
      />
      <LengthField
        label="Inside, left"
        :pointer="at('landmarks', id, 'inside/1')"
        :value="l.inside[1]"
      />
      <LengthField
        label="Below, forward"
        :pointer="at('landmarks', id, 'outside/0')"
        :value="l.outside[0]"
      />
      <LengthField
        label="Below, left"
        :pointer="at('landmarks', id, 'outside/1')"
        :value="l.outside[1]"
      />
      <el-button :aria-label="`Remove ${l.name}`" @click="remove('landmarks', String(id))"
        >Remove</el-button
      >
    </div>
    <el-button @click="add('landmarks')">Add a point</el-button>
  </el-dialog>
</template>

<style scoped>
h3 {
  margin: 18px 0 6px;
}
.line {
  flex-wrap: wrap;
  align-items: end;
  padding: 6px 0;
  border-bottom: 1px solid var(--hair);
}
</style>
