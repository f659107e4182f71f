<script setup lang="ts">
import { ref } from "vue";
import { api, Refused } from "@/api/client";
import type { Operation, Starts } from "@/api/types";
import { costs } from "@/units/cost";
import { useProject } from "@/store/project";
import { say } from "@/units/text";

/** Whole fit-outs to begin with, laid beside each other and beside what is there. */
const store = useProject();
const found = ref<Starts | null>(null);
const busy = ref(false);
let stop: AbortController | null = null;
async function look() {
  if (busy.value) return;
  busy.value = true;
  stop = new AbortController();
  try {
    found.value = await api.starts(store.id, stop.signal);
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    if (!stop.signal.aborted) store.failed = e.problem;
  } finally {
    busy.value = false;
  }
}
async function begin(patch: Starts["all"][number]["patch"]) {
  if (await store.change(patch as unknown as Operation[])) found.value = null;
}
type Measures = NonNullable<Starts["now"]>;
const boards = (m: Measures) =>
  `${m.boards} boards, ${m.sheets} ${m.sheets === 1 ? "sheet" : "sheets"}`;
const comes = (m: Measures) =>
  [
    m.headroom ? `${say(m.headroom, store.system, true)} over the seat` : "",
    m.sits.length ? `sitting up: ${m.sits.join(", ")}` : "",
    `to the night: ${m.evening}`,
  ].filter(Boolean);
</script>

<template>
  <div class="row">
    <el-button v-if="!found" :disabled="busy" @click="look">Whole fit-outs to begin with</el-button>
    <el-button v-else @click="found = null">Put them away</el-button>
    <span v-if="busy" role="status"
      >Working them out for this vehicle …
      <el-button @click="stop?.abort()">Stop</el-button>
    </span>
  </div>
  <div v-if="found" class="scroll-x" tabindex="0" role="group" aria-label="Starting points">
    <table class="paper-table">
      <thead>
        <tr>
          <th>what</th>
          <th>made of</th>
          <th>what comes of it</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-if="found.now">
          <td><b>As it is now</b></td>
          <td>
            {{ boards(found.now) }}, {{ found.now.weighs
            }}<template v-if="found.now.sheets">, cost {{ costs(found.now) }}</template>
          </td>
          <td>
            <div v-for="c in comes(found.now)" :key="c">{{ c }}</div>
            <div v-for="s in found.now.stops" :key="s" class="stop">■ {{ s }}</div>
          </td>
          <td></td>
        </tr>
        <tr v-for="s in found.all" :key="s.id" :class="{ no: s.cannot }">
          <td class="what">
            <b>{{ s.name }}</b><br />{{ s.why }}
            <div v-for="g in s.gives_up" :key="g" class="soft">gives up: {{ g }}</div>
          </td>
          <td v-if="s.cannot" colspan="3" class="soft">Does not go here: {{ s.cannot }}</td>
          <template v-else>
            <td>
              {{ s.pieces.join(", ")
              }}<template v-if="s.measures"
                ><br />{{ boards(s.measures) }}, {{ s.measures.weighs
                }}<template v-if="s.measures.sheets"
                  >, cost {{ costs(s.measures) }}</template
                ></template
              >
            </td>
            <td>
              <template v-if="s.measures">
                <div v-for="c in comes(s.measures)" :key="c">{{ c }}</div>
                <div v-for="t in s.measures.stops" :key="t" class="stop">■ {{ t }}</div>
              </template>
            </td>
            <td>
              <el-button @click="begin(s.patch)">Begin with it</el-button>
            </td>
          </template>
        </tr>
      </tbody>
    </table>
    <p class="soft">
      Each takes the place of the furniture that is there; undo brings that back. Everything of it
      can be changed afterwards.
    </p>
  </div>
</template>

<style scoped>
td {
  vertical-align: top;
  font-size: 14.5px;
}
.what {
  max-width: 260px;
}
.stop {
  color: var(--stop);
}
.no b {
  color: var(--ink-2);
}
</style>
