<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { api, Refused } from "@/api/client";
import type { Operation, Variants } from "@/api/types";
import { costs } from "@/units/cost";
import { useProject } from "@/store/project";
import { escapePointer, freshId, say } from "@/units/text";

/** Ways to furnish the same vehicle, side by side: kept by name, taken again. */
const store = useProject();
const found = ref<Variants | null>(null);
const shown = ref(false);
const busy = ref(false);
const name = ref("");
const kept = computed(() => Object.keys(store.project?.variants ?? {}).length);
let stop: AbortController | null = null;

async function look() {
  stop?.abort();
  const mine = (stop = new AbortController());
  busy.value = true;
  try {
    found.value = await api.variants(store.id, mine.signal);
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    if (!mine.signal.aborted) store.failed = e.problem;
  } finally {
    if (stop === mine) busy.value = false;
  }
}
watch([shown, () => store.revision], () => {
  if (shown.value) void look();
});

const here = () => ({
  modules: store.project?.modules ?? {},
  states: store.project?.states ?? {},
});
async function keep() {
  const called = name.value.trim();
  if (!called) return;
  const value = { name: called, ...here() };
  if (await store.change([{ op: "add", path: `/variants/${freshId("v")}`, value }])) {
    name.value = "";
    shown.value = true;
  }
}
const at = (id: string) => `/variants/${escapePointer(id)}`;
/** Its furniture takes the place of what is there. */
function take(id: string) {
  const v = store.project?.variants?.[id];
  if (!v) return;
  const patch: Operation[] = [
    { op: "add", path: "/modules", value: v.modules },
    { op: "add", path: "/states", value: v.states },
  ];
  void store.change(patch);
}
/** One piece of it comes in, or takes the place of its like; the rest stays. */
function takePiece(id: string, piece: string) {
  const value = store.project?.variants?.[id]?.modules?.[piece];
  if (!value) return;
  void store.change([{ op: "add", path: `/modules/${escapePointer(piece)}`, value }]);
}
/** What is there now is kept under its name. */
function renew(id: string) {
  const { modules, states } = here();
  void store.change([
    { op: "add", path: `${at(id)}/modules`, value: modules },
    { op: "add", path: `${at(id)}/states`, value: states },
  ]);
}
function forget(id: string) {
  void store.change([{ op: "remove", path: at(id) }]);
}

type Measures = Variants["now"];
const ROWS: [string, (m: Measures) => string][] = [
  ["Costs", (m) => costs(m)],
  ["Weighs", (m) => m.weighs],
  ["Boards, sheets", (m) => `${m.boards}, ${m.sheets}`],
  ["Stows", (m) => m.stowed.join(", ") || "nothing"],
  ["Over the seat", (m) => (m.headroom ? say(m.headroom, store.system, true) : "—")],
  ["Sit up in bed", (m) => m.sits.join(", ") || "nobody"],
  ["To the night", (m) => m.evening],
  ["Worth a look", (m) => String(m.looks)],
];
const columns = computed(() => Object.entries(found.value?.all ?? {}));
const measured = computed(() => {
  const now = found.value?.now;
  return now ? [now, ...columns.value.map((c) => c[1].measures)] : [];
});
</script>

<template>
  <section class="variants" aria-label="Variants">
    <form class="row" @submit.prevent="keep">
      <el-input
        v-model="name"
        class="name"
        placeholder="bench on the left"
        aria-label="Name for this way to furnish it"
      />
      <el-button native-type="submit" :disabled="!name.trim()">Keep it as a variant</el-button>
      <el-button v-if="kept" :aria-expanded="shown" @click="shown = !shown">
        {{
          shown ? "Put the variants away" : `Compare ${kept} ${kept === 1 ? "variant" : "variants"}`
        }}
      </el-button>
      <span v-if="busy" role="status">Working them out …</span>
    </form>
    <div
      v-if="shown && found && kept"
      class="scroll-x"
      tabindex="0"
      role="group"
      aria-label="Variants side by side"
    >
      <table class="paper-table">
        <thead>
          <tr>
            <th></th>
            <th>As it is now</th>
            <th v-for="[id, v] in columns" :key="id">{{ v.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th>Pieces</th>
            <td>{{ store.plan?.modules.map((m) => m.name).join(", ") }}</td>
            <td v-for="[id, v] in columns" :key="id">
              <div v-for="piece in v.pieces" :key="piece.id">
                {{ piece.name }}
                <button
                  v-if="!piece.same"
                  type="button"
                  class="plain link"
                  :aria-label="`Take the ${piece.name} of ${v.name}`"
                  @click="takePiece(id, piece.id)"
                >
                  take this one
                </button>
              </div>
            </td>
          </tr>
          <tr v-for="[words, told] in ROWS" :key="words">
            <th>{{ words }}</th>
            <td>{{ told(found.now) }}</td>
            <td v-for="[id, v] in columns" :key="id">{{ told(v.measures) }}</td>
          </tr>
          <tr>
            <th>Stops</th>
            <td v-for="(m, i) in measured" :key="i">
              <div v-for="s in m.stops" :key="s" class="stop">■ {{ s }}</div>
              <template v-if="!m.stops.length">none</template>
            </td>
          </tr>
          <tr>
            <th></th>
            <td></td>
            <td v-for="[id, v] in columns" :key="id">
              <template v-if="v.same">what is there now</template>
              <template v-else>
                <el-button :aria-label="`Take ${v.name}`" @click="take(id)">Take it</el-button>
                <el-button :aria-label="`Keep what is there now as ${v.name}`" @click="renew(id)">
                  Renew
                </el-button>
              </template>
              <el-button :aria-label="`Forget ${v.name}`" @click="forget(id)">Forget</el-button>
            </td>
          </tr>
        </tbody>
      </table>
      <p class="soft">
        All of them stand in the same vehicle, with the same people and things. <i>Take it</i> puts
        its furniture in place of what is there, <i>take this one</i> a single piece; undo brings
        that back. <i>Renew</i> keeps what is there now under its name.
      </p>
    </div>
  </section>
</template>

<style scoped>
.variants {
  margin: 10px 0;
}
.name {
  width: 240px;
}
td,
th {
  vertical-align: top;
  font-size: 14.5px;
  text-align: left;
}
td {
  min-width: 150px;
  padding-right: 12px;
}
.stop {
  color: var(--stop);
}
.link {
  margin-left: 8px;
  text-decoration: underline;
}
@media (pointer: coarse) {
  .link {
    min-height: var(--touch);
  }
}
</style>
