<script setup lang="ts">
import { computed } from "vue";
import type { Operation, Plan } from "@/api/types";
import { useProject } from "@/store/project";
import { escapePointer, freshId, say } from "@/units/text";
import LengthField from "@/fields/LengthField.vue";
import LadderDrawing from "./LadderDrawing.vue";

const store = useProject();
const ladder = computed(() => store.shown?.ladder ?? null);
/** The ladder is that of the first deck. */
const deckId = computed(() => {
  const modules = Object.entries(store.project?.modules ?? {});
  return modules.find(([, m]) => m.kind === "deck")?.[0] ?? "";
});
const underside = computed(() => `/modules/${escapePointer(deckId.value)}/choices/underside`);

/** What answers while the deck is dragged. */
const ANSWERS: (keyof Plan)[] = ["stages", "ladder", "findings", "evening"];
function patch(value: number): Operation[] {
  return [{ op: "add", path: underside.value, value }];
}
function compare() {
  const chosen = ladder.value?.chosen;
  if (!chosen) return;
  const value = { underside: chosen.underside.value, note: "kept for comparison" };
  void store.change([{ op: "add", path: `/candidates/${freshId("c")}`, value }]);
}
function drop(id: string) {
  void store.change([{ op: "remove", path: `/candidates/${escapePointer(id)}` }]);
}
</script>

<template>
  <h2>How high is the deck?</h2>
  <p v-if="!ladder" class="empty">
    The ladder hangs between floor and roof. Measure the floor to the roof first:
    <router-link :to="{ name: 'survey' }">to the survey</router-link>.
  </p>
  <template v-else>
    <p class="soft">
      Drag the deck, or pick a rung: a height at which something changes. Everything answers at
      once.
    </p>
    <div class="row exact">
      <LengthField
        label="Exact height of the underside"
        :pointer="underside"
        :value="ladder.chosen?.underside.value"
      />
      <el-checkbox
        :model-value="!(store.project?.headroom?.sit ?? true)"
        @change="store.change([{ op: 'add', path: '/headroom/sit', value: !$event }])"
        >nobody needs to sit up</el-checkbox
      >
    </div>
    <LadderDrawing
      :ladder="ladder"
      :previewing="store.previewed !== null"
      @preview="(u) => store.preview(patch(u), ANSWERS)"
      @leave="store.preview(null)"
      @choose="(u) => store.change(patch(u))"
    />
    <div class="row spread head">
      <h3>Compare</h3>
      <el-button :disabled="!ladder.chosen" @click="compare">Keep this height to compare</el-button>
    </div>
    <div
      v-if="ladder.candidates.length"
      class="scroll-x"
      tabindex="0"
      role="group"
      aria-label="Heights compared"
    >
      <table class="paper-table">
        <thead>
          <tr>
            <th>Underside</th>
            <th>Why</th>
            <th>Headroom</th>
            <th>Stands under it</th>
            <th>Sits up</th>
            <th><span class="hidden-text">Do</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in ladder.candidates" :key="c.id" :class="{ here: c.rung.chosen }">
            <td class="figure">{{ say(c.rung.underside, store.system, true) }}</td>
            <td>{{ c.note }}</td>
            <td class="figure">{{ say(c.rung.headroom, store.system, true) }}</td>
            <td>
              {{ c.rung.fits.join(", ") || "nothing" }}
              <span v-if="c.misses.length" class="miss">not {{ c.misses.join(", ") }}</span>
            </td>
            <td>
              {{ c.rung.sits.join(", ") || "nobody" }}
              <span v-if="c.stoops.length" class="miss">not {{ c.stoops.join(", ") }}</span>
            </td>
            <td class="row">
              <el-button
                v-if="!c.rung.chosen"
                :aria-label="`Choose ${c.rung.underside.mm} mm`"
                @click="store.change(patch(c.rung.underside.value))"
              >
                Choose
              </el-button>
              <b v-else>chosen</b>
              <el-button :aria-label="`Drop ${c.rung.underside.mm} mm`" @click="drop(c.id)">
                Drop
              </el-button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-else class="soft">Keep two or three heights here and see them side by side.</p>

    <h3 class="head">The rungs</h3>
    <div class="scroll-x" tabindex="0" role="group" aria-label="Table of rungs">
      <table class="paper-table">
        <thead>
          <tr>
            <th>Underside</th>
            <th>What changes</th>
            <th>Sleeping surface</th>
            <th>Headroom from the seat</th>
            <th>Stands under it</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in ladder.rungs" :key="r.underside.value" :class="{ here: r.chosen }">
            <td class="figure">{{ say(r.underside, store.system, true) }}</td>
            <td>{{ r.label }}</td>
            <td class="figure">{{ say(r.sleep_surface, store.system, true) }}</td>
            <td class="figure">{{ say(r.headroom, store.system, true) }}</td>
            <td>{{ r.fits.join(", ") || "nothing" }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </template>
</template>

<style scoped>
.head {
  margin-top: 16px;
}
.miss {
  display: block;
  color: var(--stop);
}
.here td {
  background: var(--ground);
}
</style>
