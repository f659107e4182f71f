<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { api } from "@/api/client";
import FullSize from "@/fields/FullSize.vue";
import ChoiceField from "@/fields/ChoiceField.vue";
import LengthField from "@/fields/LengthField.vue";
import PlainField from "@/fields/PlainField.vue";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { escapePointer, freshId, say } from "@/units/text";
import CurveDrawing from "./CurveDrawing.vue";
import CurveFile from "./CurveFile.vue";
import PhotoFile from "./PhotoFile.vue";
import PlaceInVehicle from "./PlaceInVehicle.vue";
import StationTable from "./StationTable.vue";

const store = useProject();
const view = useView();
const WAYS = [
  ["ordinates", "depths from a straight edge"],
  ["offset_block", "a line drawn along it by a block or finger"],
  ["scribe", "a line scribed in one direction"],
  ["two_pin", "distances from two pins, or three"],
  ["runs", "straight runs and corners"],
  ["drawn", "the curve itself, point by point"],
] as const;
const SIDES = [
  ["left", "to the left"],
  ["right", "to the right"],
] as const;
const CORNERS = [
  ["keep", "stay"],
  ["smooth", "are rounded"],
] as const;

const all = computed(() => store.shown?.templates ?? []);
const chosen = ref("");
watch(
  [() => view.marked, all],
  () => {
    if (all.value.some((t) => t.id === view.marked)) chosen.value = view.marked;
    if (!all.value.some((t) => t.id === chosen.value)) chosen.value = all.value[0]?.id ?? "";
  },
  { immediate: true },
);
const curve = computed(() => all.value.find((t) => t.id === chosen.value));
const own = computed(() => store.project?.templates?.[chosen.value]);
const at = computed(() => `/templates/${escapePointer(chosen.value)}`);
/** Hundreds of points of a file are not typed again: they are shown when asked for. */
const FEW = 80;
const opened = ref("");
const count = computed(() => Object.keys(own.value?.stations ?? {}).length);
const few = computed(() => count.value <= FEW || opened.value === chosen.value);
const name = ref("");
const way = ref<(typeof WAYS)[number][0]>("ordinates");
async function add() {
  const id = freshId("c");
  const value = { name: name.value.trim(), way: way.value, stations: {} };
  // The first curve brings the list with it.
  const list = store.project?.templates
    ? []
    : [{ op: "add" as const, path: "/templates", value: {} }];
  await store.change([...list, { op: "add", path: `/templates/${id}`, value }]);
  chosen.value = id;
  name.value = "";
}
function remove() {
  void store.change([{ op: "remove", path: at.value }]);
}
</script>

<template>
  <div class="row spread">
    <h2>Which curves have to be right the first time?</h2>
    <span v-if="curve?.cut.length" class="row">
      <a class="print" :href="api.exportUrl(store.id, 'ordinates.csv')" download>Ordinates (CSV)</a>
      <FullSize of="templates" />
    </span>
  </div>
  <p v-if="all.length === 0" class="empty">
    None yet. Read a card or a wall by depths from a straight edge, by a line drawn along it, from
    two pins or three, or by its straight runs and corners: the curve comes out true, with its
    doubt, at full size on ordinary paper or as a table to draw it by a batten.
  </p>
  <div v-else class="row tabs" role="group" aria-label="Curves">
    <button
      v-for="t in all"
      :key="t.id"
      type="button"
      class="plain tab"
      :aria-pressed="t.id === chosen"
      @click="chosen = t.id"
    >
      {{ t.name }}
    </button>
  </div>
  <template v-if="curve && own">
    <CurveDrawing :curve="curve" :over="store.shown?.over.find((o) => o.curve === chosen)" />
    <p v-if="curve.wrong" class="wrong" role="alert">{{ curve.wrong }}</p>
    <p class="soft">
      <template v-if="curve.rms">
        The curve leaves the readings by {{ say(curve.rms, store.system, true) }} on the whole.
      </template>
      <template v-if="curve.next">
        One more reading tells most {{ say(curve.next.at, store.system, true) }} along: there it is
        sure to {{ say(curve.next.doubt, store.system, true) }} only.
      </template>
    </p>
    <div class="both">
      <section>
        <h3>Readings</h3>
        <p v-if="own.photo">
          <a class="print" :href="api.photoUrl(store.id, own.photo)" target="_blank"
            >The photo they were read from</a
          >
        </p>
        <StationTable v-if="few" :id="chosen" :template="own" :curve="curve" />
        <template v-else>
          <p class="soft">{{ count }} points, of a file or a photo.</p>
          <el-button @click="opened = chosen">Show them all</el-button>
        </template>
      </section>
      <section>
        <h3>How it was captured</h3>
        <div class="fields">
          <PlainField label="Name" kind="text" :pointer="`${at}/name`" :value="own.name" />
          <ChoiceField
            label="By"
            :pointer="`${at}/way`"
            :value="own.way ?? 'ordinates'"
            :options="WAYS"
          />
          <ChoiceField
            v-if="own.way !== 'scribe'"
            label="The surface lies"
            :pointer="`${at}/surface`"
            :value="own.surface ?? 'left'"
            :options="SIDES"
          />
          <LengthField
            v-if="own.way === 'ordinates' || own.way === 'two_pin'"
            :label="own.way === 'two_pin' ? 'Pins apart' : 'Straight edge'"
            :pointer="`${at}/apart`"
            :value="own.apart"
          />
          <template v-if="own.way === 'two_pin'">
            <LengthField
              label="First pin to a third"
              :pointer="`${at}/third_a`"
              :value="own.third_a"
              empty="only two"
            />
            <LengthField
              label="Second pin to it"
              :pointer="`${at}/third_b`"
              :value="own.third_b"
              empty="only two"
            />
          </template>
          <LengthField
            v-if="own.way === 'runs'"
            label="Shell behind its lining"
            :pointer="`${at}/behind`"
            :value="own.behind ?? 0"
          />
          <LengthField
            v-if="own.way === 'offset_block' || own.way === 'scribe'"
            label="Line off the surface"
            :pointer="`${at}/offset`"
            :value="own.offset"
          />
          <LengthField
            v-if="own.way === 'offset_block'"
            label="Flat face of the block"
            :pointer="`${at}/contact_width`"
            :value="own.contact_width"
          />
          <PlainField
            v-if="own.way === 'scribe'"
            label="Direction, degrees"
            kind="number"
            :pointer="`${at}/direction`"
            :value="own.direction"
          />
          <LengthField
            v-if="own.way === 'ordinates'"
            label="Radius of the tip"
            :pointer="`${at}/tip_radius`"
            :value="own.tip_radius"
          />
          <LengthField label="Noise of a reading" :pointer="`${at}/sd`" :value="own.sd" />
          <ChoiceField
            label="Corners"
            :pointer="`${at}/corners`"
            :value="own.corners ?? 'keep'"
            :options="CORNERS"
          />
          <LengthField
            label="Board short of it by"
            :pointer="`${at}/clearance`"
            :value="own.clearance"
          />
        </div>
        <PlaceInVehicle
          :id="chosen"
          :template="own"
          :curve="curve"
          @taken="(id) => (chosen = id)"
        />
        <p>
          <el-button @click="remove">Remove this curve</el-button>
        </p>
        <details class="printer">
          <summary>The printer is off</summary>
          <p class="soft">
            Print a page, measure its bars of 100 mm, and type what you read: the next print is
            right.
          </p>
          <div class="fields">
            <LengthField
              label="Across the page"
              pointer="/units/printed_across"
              :value="store.project?.units?.printed_across"
              empty="100 mm"
            />
            <LengthField
              label="Up the page"
              pointer="/units/printed_up"
              :value="store.project?.units?.printed_up"
              empty="100 mm"
            />
          </div>
        </details>
        <template v-if="curve.table">
          <h3>To draw it with a batten</h3>
          <p class="soft">
            From the thin straight edge of the drawing; a batten through these points leaves the
            curve by {{ say(curve.table.off, store.system, true) }} at the most.
          </p>
          <div class="scroll-x" tabindex="0" role="group" aria-label="Ordinates">
            <table class="paper-table">
              <thead>
                <tr>
                  <th colspan="2">along, mm and in</th>
                  <th colspan="2">out, mm and in</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="(r, i) in curve.table.rows" :key="i">
                  <td class="figure">{{ r[0]!.mm }}</td>
                  <td class="figure soft">{{ r[0]!.inch }}</td>
                  <td class="figure">{{ r[1]!.mm }}</td>
                  <td class="figure soft">{{ r[1]!.inch }}</td>
                </tr>
              </tbody>
            </table>
          </div>
        </template>
      </section>
    </div>
  </template>
  <form class="row add" @submit.prevent="add">
    <el-input
      v-model="name"
      class="grow"
      placeholder="Left wall, at the deck"
      aria-label="New curve"
    />
    <el-select v-model="way" class="grow" aria-label="Captured by">
      <el-option v-for="[key, words] in WAYS" :key="key" :value="key" :label="words" />
    </el-select>
    <el-button native-type="submit" :disabled="!name.trim()">Add a curve</el-button>
  </form>
  <CurveFile @taken="(id) => (chosen = id)" />
  <PhotoFile @taken="(id) => (chosen = id)" />
</template>

<style scoped>
.tabs {
  flex-wrap: wrap;
  gap: 6px;
  margin: 6px 0;
}
.tab {
  padding: 5px 11px;
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
}
.tab[aria-pressed="true"] {
  background: var(--ink);
  color: var(--on-ink);
}
.print {
  font-weight: 600;
}
.wrong {
  color: var(--stop);
  font-weight: 600;
}
.both {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 10px 24px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 8px 12px;
  margin-bottom: 10px;
}
.add {
  margin-top: 16px;
}
.grow {
  flex: 1 1 200px;
}
@media (max-width: 1000px) {
  .both {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
