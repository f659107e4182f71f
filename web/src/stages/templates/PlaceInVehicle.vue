<script setup lang="ts">
import { computed } from "vue";
import type { Plan, Project } from "@/api/types";
import ChoiceField from "@/fields/ChoiceField.vue";
import LengthField from "@/fields/LengthField.vue";
import RemovableGroup from "@/fields/RemovableGroup.vue";
import { useProject } from "@/store/project";
import { escapePointer, freshId } from "@/units/text";

/** Where a captured curve lies in the vehicle: then every board at that wall goes by it. */
const props = defineProps<{
  id: string;
  template: NonNullable<Project["templates"]>[string];
  curve: Plan["templates"][number];
}>();
const emit = defineEmits<{ taken: [string] }>();
const store = useProject();
const at = computed(() => `/templates/${escapePointer(props.id)}/place`);
const place = computed(() => props.template.place);
const over = computed(() => store.shown?.over.find((o) => o.curve === props.id));
async function turn() {
  const id = freshId("c");
  const value = { ...over.value?.template, name: `${props.curve.name}, turned over` };
  if (await store.change([{ op: "add", path: `/templates/${id}`, value }])) emit("taken", id);
}
const ties = computed(() =>
  Object.entries(place.value?.landmarks ?? {}).sort(([a], [b]) => (a < b ? -1 : 1)),
);
const FACES = [
  ["left", "left wall"],
  ["right", "right wall"],
  ["front", "front"],
] as const;
const PLANES = [
  ["level", "level, at a height"],
  ["across", "upright, across the vehicle"],
] as const;
const across = computed(() => place.value?.plane === "across");
/** The first two landmarks are the ends of what it was captured with. */
function begin() {
  const ends = props.curve.base.length ? props.curve.base : props.curve.marks.map((m) => m.p);
  const tie = (p: number[] | undefined) => ({ a: p?.[0] ?? null, b: p?.[1] ?? null });
  const value = {
    of: "left",
    plane: "level",
    landmarks: { m01: tie(ends[0]), m02: tie(ends.at(-1)) },
  };
  void store.change([{ op: "add", path: at.value, value }]);
}
function add() {
  const last = Math.max(0, ...ties.value.map(([id]) => Number(id.replace(/\D/g, "")) || 0));
  const id = `m${String(last + 1).padStart(2, "0")}`;
  void store.change([{ op: "add", path: `${at.value}/landmarks/${id}`, value: {} }]);
}
function aside() {
  const value = !place.value?.aside;
  void store.change([{ op: "add", path: `${at.value}/aside`, value }]);
}
const drop = (path: string) => void store.change([{ op: "remove", path }]);
const asks = computed(() => [
  "on the capture: right",
  "on the capture: up",
  across.value ? "vehicle: over the floor" : "vehicle: forward",
  place.value?.of === "front" ? "vehicle: left of the middle" : "vehicle: off the middle",
]);
</script>

<template>
  <h3>Where it lies in the vehicle</h3>
  <template v-if="!place">
    <p class="soft">
      Once two points of it are found in the vehicle, every board at that wall goes by this curve:
      it counts like readings, with its own doubt.
    </p>
    <el-button @click="begin">Lay it into the vehicle</el-button>
  </template>
  <template v-else>
    <div class="fields">
      <ChoiceField label="It is of the" :pointer="`${at}/of`" :value="place.of" :options="FACES" />
      <ChoiceField
        v-if="place.of !== 'front'"
        label="Captured"
        :pointer="`${at}/plane`"
        :value="place.plane ?? 'level'"
        :options="PLANES"
      />
      <LengthField
        :label="across ? 'Forward of the threshold' : 'Height over the load floor'"
        :pointer="`${at}/at`"
        :value="place.at"
      />
    </div>
    <p v-if="curve.unplaced" class="wrong" role="status">{{ curve.unplaced }}</p>
    <p v-else-if="curve.placed?.counts" class="soft">
      Laid in: the boards at the {{ FACES.find(([f]) => f === place!.of)?.[1] }} go by it.
    </p>
    <p v-else class="soft">Laid in, but no board goes by it.</p>
    <p v-if="over" class="soft">
      {{ over.words }}
      <el-button v-if="over.template" @click="turn">Turn it over</el-button>
    </p>
    <RemovableGroup
      v-for="([point, tie], i) in ties"
      :key="point"
      :title="`Point ${i + 1}`"
      :remove="`Remove point ${i + 1}`"
      @remove="drop(`${at}/landmarks/${escapePointer(point)}`)"
    >
      <LengthField
        v-for="(field, k) in ['a', 'b', 'u', 'v'] as const"
        :key="field"
        :label="asks[k]!"
        :pointer="`${at}/landmarks/${escapePointer(point)}/${field}`"
        :value="tie[field]"
        empty="not found yet"
      />
    </RemovableGroup>
    <div class="row">
      <el-button @click="add">Another point</el-button>
      <el-button v-if="!curve.unplaced" @click="aside">
        {{ place.aside ? "Boards go by it again" : "Boards do not go by it" }}
      </el-button>
      <el-button @click="drop(at)">Take it out of the vehicle</el-button>
    </div>
  </template>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 8px 12px;
  margin-bottom: 10px;
}
.row {
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 10px;
}
.row :deep(.el-button) {
  margin-left: 0;
}
.wrong {
  color: var(--look);
  font-weight: 600;
}
</style>
