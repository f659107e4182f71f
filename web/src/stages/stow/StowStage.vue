<script setup lang="ts">
import { computed, ref } from "vue";
import ChoiceField from "@/fields/ChoiceField.vue";
import LengthField from "@/fields/LengthField.vue";
import MassField from "@/fields/MassField.vue";
import PlainField from "@/fields/PlainField.vue";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { escapePointer, freshId } from "@/units/text";
import StowDrawing from "./StowDrawing.vue";

const store = useProject();
const view = useView();
const gearName = ref("");
const personName = ref("");
const gear = computed(() => Object.entries(store.project?.gear ?? {}));
const people = computed(() => Object.entries(store.project?.people ?? {}));
const at = (map: string, id: string) => `/${map}/${escapePointer(id)}`;

const REACH = [
  ["never", "not on the way"],
  ["driving", "while driving"],
  ["asleep", "with the bed made"],
  ["outside", "from outside, by a door"],
] as const;

async function addGear() {
  const value = { name: gearName.value.trim(), lid_clearance: 10 };
  await store.change([{ op: "add", path: `/gear/${freshId("g")}`, value }]);
  gearName.value = "";
}
async function addPerson() {
  const value = { name: personName.value.trim() };
  await store.change([{ op: "add", path: `/people/${freshId("p")}`, value }]);
  personName.value = "";
}
function remove(map: string, id: string) {
  void store.change([{ op: "remove", path: at(map, id) }]);
}
</script>

<template>
  <h2>What has to go in?</h2>
  <p class="soft lead">
    Outside sizes, with lid and handle. Type them as you measure them:
    {{ store.system === "in" ? "16 1/2, 1&#39; 4 1/2, 42 cm" : '420, 42 cm, 16 1/2"' }}.
  </p>
  <StowDrawing v-if="gear.length" />
  <p v-else class="empty">
    Nothing yet. Put in the first thing that has to stand under the bed: its height decides how high
    the deck must be.
  </p>

  <section
    v-for="[id, g] in gear"
    :key="id"
    class="thing"
    :class="{ marked: view.marked === id }"
    :aria-label="g.name"
  >
    <PlainField label="Name" kind="text" :pointer="`${at('gear', id)}/name`" :value="g.name" />
    <LengthField label="Width" :pointer="`${at('gear', id)}/w`" :value="g.w" empty="?" />
    <LengthField label="Depth" :pointer="`${at('gear', id)}/d`" :value="g.d" empty="?" />
    <LengthField label="Height" :pointer="`${at('gear', id)}/h`" :value="g.h" empty="?" />
    <LengthField
      label="Free above"
      :pointer="`${at('gear', id)}/lid_clearance`"
      :value="g.lid_clearance"
    />
    <PlainField
      label="How many"
      kind="number"
      :pointer="`${at('gear', id)}/count`"
      :value="g.count"
    />
    <MassField label="Mass" :pointer="`${at('gear', id)}/mass`" :value="g.mass" empty="?" />
    <ChoiceField
      label="In reach"
      :pointer="`${at('gear', id)}/reach`"
      :value="g.reach ?? 'never'"
      :options="REACH"
    />
    <details class="appliance">
      <summary>Appliance</summary>
      <div class="row">
        <LengthField label="Slide below" :pointer="`${at('gear', id)}/slide`" :value="g.slide" />
        <LengthField label="Air above" :pointer="`${at('gear', id)}/air`" :value="g.air" />
      </div>
    </details>
    <div class="row actions">
      <el-checkbox
        :model-value="g.under_deck"
        @change="
          (on: unknown) =>
            store.change([{ op: 'add', path: `${at('gear', id)}/under_deck`, value: Boolean(on) }])
        "
      >
        under the deck
      </el-checkbox>
      <el-button :aria-label="`Remove ${g.name}`" @click="remove('gear', id)">Remove</el-button>
    </div>
  </section>
  <form class="row add" @submit.prevent="addGear">
    <el-input
      v-model="gearName"
      class="grow"
      placeholder="Eyepiece case"
      aria-label="New thing to stow"
    />
    <el-button native-type="submit" :disabled="!gearName.trim()">Add a thing</el-button>
  </form>

  <h3>Who sleeps in it?</h3>
  <section v-for="[id, p] in people" :key="id" class="thing" :aria-label="p.name">
    <PlainField label="Name" kind="text" :pointer="`${at('people', id)}/name`" :value="p.name" />
    <LengthField
      label="Stature"
      :pointer="`${at('people', id)}/stature`"
      :value="p.stature"
      empty="?"
    />
    <LengthField
      label="Sitting height"
      :pointer="`${at('people', id)}/sitting_height`"
      :value="p.sitting_height"
      empty="from stature"
    />
    <MassField label="Mass" :pointer="`${at('people', id)}/mass`" :value="p.mass" empty="usual" />
    <div class="row actions">
      <el-button :aria-label="`Remove ${p.name}`" @click="remove('people', id)">Remove</el-button>
    </div>
  </section>
  <form class="row add" @submit.prevent="addPerson">
    <el-input v-model="personName" class="grow" placeholder="Sleeper" aria-label="New sleeper" />
    <el-button native-type="submit" :disabled="!personName.trim()">Add a sleeper</el-button>
  </form>

  <h3>The mattress</h3>
  <section class="thing" aria-label="Mattress">
    <LengthField
      label="Thickness"
      pointer="/mattress/thickness"
      :value="store.project?.mattress?.thickness"
      empty="?"
    />
    <LengthField
      label="Length"
      pointer="/mattress/length"
      :value="store.project?.mattress?.length"
      empty="not said"
    />
    <LengthField
      label="Width"
      pointer="/mattress/width"
      :value="store.project?.mattress?.width"
      empty="not said"
    />
    <LengthField
      label="Goes down when sat on"
      pointer="/mattress/sag"
      :value="store.project?.mattress?.sag"
      empty="?"
    />
    <LengthField
      label="Lining still to come under the roof"
      pointer="/headroom/finish"
      :value="store.project?.headroom?.finish"
    />
    <LengthField
      label="Air wanted over a head"
      pointer="/headroom/clearance"
      :value="store.project?.headroom?.clearance"
    />
  </section>
</template>

<style scoped>
.lead {
  margin-bottom: 8px;
}
h3 {
  margin-top: 20px;
}
.thing {
  display: flex;
  flex-wrap: wrap;
  align-items: flex-start;
  gap: 4px 12px;
  padding: 8px 0 4px;
  border-bottom: 1px solid var(--hair);
}
.thing.marked {
  background: var(--ground);
}
.thing :deep(.field.text) {
  width: 150px;
}
/* A mass is shorter than a length in two systems. */
.thing > :deep(.field.mass) {
  width: 92px;
}
.thing > :deep(.field:not(.text):not(.number):not(.mass)) {
  width: 112px;
}
.thing > :deep(.field:has(.el-select)) {
  width: 160px;
}
.appliance {
  padding-top: 22px;
  font-size: 14.5px;
}
.appliance summary {
  cursor: pointer;
  min-height: 30px;
}
.actions {
  padding-top: 22px;
}
.add {
  margin-top: 8px;
  max-width: 420px;
}
.grow {
  flex: 1 1 180px;
}
</style>
