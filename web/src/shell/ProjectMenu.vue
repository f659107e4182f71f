<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { api, Refused } from "@/api/client";
import type { Compared, Version } from "@/api/types";
import { STAGES } from "@/stages/stages";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import PhoneDialog from "./PhoneDialog.vue";
import { useNarrow } from "./useNarrow";

const open = defineModel<boolean>({ required: true });
const emit = defineEmits<{ shortcuts: [] }>();
const store = useProject();
const view = useView();
const router = useRouter();
const narrow = useNarrow();
const versions = ref<Version[]>([]);
const compared = ref<{ name: string; changes: Compared["changes"] } | null>(null);
const renamed = ref("");
const phone = ref(false);
const name = ref("");
const error = ref("");

const PAPERS = [
  ["a4", "A4"],
  ["letter", "Letter"],
] as const;
const MARKS = ["1 mm", "1/2 mm", "1/16 in", "1/32 in"] as const;
const FILES = [
  ["project.json", "Project (JSON, to keep or to move)"],
  ["readings.csv", "Readings (CSV)"],
  ["model.ply", "Vehicle as measured (PLY)"],
  ["parts.pdf", "Part cards (PDF)"],
  ["parts.svg", "Part cards (SVG)"],
  ["sheets.pdf", "Sheet layouts (PDF)"],
  ["sheets.svg", "Sheet layouts (SVG)"],
  ["steps.pdf", "Putting together, step by step (PDF)"],
  ["cuts.csv", "Cut list (CSV)"],
  ["parts.csv", "Part list (CSV)"],
  ["hardware.csv", "Screws and fittings (CSV)"],
  ["templates.pdf", "Curves at full size (PDF)"],
  ["templates.svg", "Curves (SVG)"],
  ["templates.dxf", "Curves (DXF)"],
  ["ordinates.csv", "Curves as ordinates (CSV)"],
] as const;

watch(open, async (on) => {
  if (!on) return;
  error.value = "";
  compared.value = null;
  view.compared = null;
  renamed.value = store.project?.name ?? "";
  versions.value = await api.versions(store.id);
});

async function rename() {
  const name = renamed.value.trim();
  if (name && name !== store.project?.name)
    await store.change([{ op: "replace", path: "/name", value: name }]);
}
async function compare(version: Version) {
  const answer = await api.compare(store.id, version.name);
  compared.value = { name: version.name, changes: answer.changes };
  view.compared = { name: version.name, plan: answer.then };
}
function draw() {
  open.value = false;
  void router.push({ name: "layout" });
}
async function forget(version: Version) {
  await api.forget(store.id, version.name);
  versions.value = await api.versions(store.id);
}
const paper = computed({
  get: () => store.project?.units?.paper ?? "a4",
  set: (to) => void store.change([{ op: "add", path: "/units/paper", value: to }]),
});

/** What the numbers on parts are multiples of; the tape's own where nothing was chosen. */
const marks = computed({
  get: () => store.project?.units?.marks ?? (store.system === "in" ? "1/16 in" : "1 mm"),
  set: (to) => void store.change([{ op: "add", path: "/units/marks", value: to }]),
});

async function keep() {
  try {
    await api.name(store.id, name.value);
    name.value = "";
    error.value = "";
    versions.value = await api.versions(store.id);
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    error.value = e.problem.detail;
  }
}

async function back(version: Version) {
  store.take(await api.restore(store.id, version.name));
  open.value = false;
}

function go(stage: string) {
  open.value = false;
  void router.push({ name: stage });
}

function system(to: "mm" | "in") {
  void store.change([
    { op: "add", path: "/units/system", value: to },
    { op: "add", path: "/units/tape", value: to },
  ]);
}
</script>

<template>
  <el-dialog v-model="open" title="Menu" width="min(640px, 94vw)">
    <template v-if="narrow">
      <h3>Stages</h3>
      <p class="row">
        <el-button v-for="s in STAGES" :key="s.id" @click="go(s.id)">{{ s.name }}</el-button>
      </p>
      <p class="row">
        <el-button :disabled="!store.canRedo" @click="store.history('redo')">Redo</el-button>
        <el-button @click="system(store.system === 'in' ? 'mm' : 'in')">
          {{ store.system === "in" ? "Millimetres" : "Inches" }}
        </el-button>
        <el-button @click="view.night = !view.night">{{ view.night ? "Day" : "Night" }}</el-button>
      </p>
    </template>
    <h3>This project</h3>
    <form class="row" @submit.prevent="rename">
      <el-input v-model="renamed" class="grow" aria-label="Name of the project" maxlength="200" />
      <el-button native-type="submit" :disabled="!renamed.trim()">Rename</el-button>
    </form>
    <p class="row">
      <el-button
        @click="
          open = false;
          phone = true;
        "
        >Let a phone in</el-button
      >
      <span class="soft">Paper</span>
      <label v-for="[key, word] in PAPERS" :key="key" class="paper">
        <input v-model="paper" type="radio" name="paper" :value="key" />{{ word }}
      </label>
    </p>
    <p class="row">
      <span class="soft">Parts are marked to</span>
      <label v-for="mark in MARKS" :key="mark" class="paper">
        <input v-model="marks" type="radio" name="marks" :value="mark" />{{ mark }}
      </label>
    </p>
    <h3>Take away</h3>
    <ul class="files">
      <li v-for="[kind, words] in FILES" :key="kind">
        <a :href="api.exportUrl(store.id, kind)" :download="`${store.id}-${kind}`">{{ words }}</a>
      </li>
    </ul>
    <h3>Named versions</h3>
    <form class="row" @submit.prevent="keep">
      <el-input
        v-model="name"
        class="grow"
        placeholder="before I cut the deck"
        aria-label="Name for the state as it is"
        maxlength="200"
      />
      <el-button native-type="submit" :disabled="!name.trim()">Keep this state</el-button>
    </form>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <ul class="versions">
      <li v-for="v in versions" :key="v.name" class="row spread">
        <span
          >{{ v.name }} <span class="soft">{{ new Date(v.at).toLocaleString("en-GB") }}</span></span
        >
        <span class="row">
          <el-button :aria-label="`Compare with ${v.name}`" @click="compare(v)">Compare</el-button>
          <el-button :aria-label="`Bring ${v.name} back`" @click="back(v)">Bring back</el-button>
          <el-button :aria-label="`Forget ${v.name}`" @click="forget(v)">Forget</el-button>
        </span>
      </li>
      <li v-if="versions.length === 0" class="soft">
        None yet. Name the state before you cut: it can be brought back, and that can be undone.
      </li>
    </ul>
    <section v-if="compared" aria-live="polite">
      <h3>Since “{{ compared.name }}”</h3>
      <p v-if="compared.changes.length === 0" class="soft">Nothing changed.</p>
      <ul v-else class="changes">
        <li v-for="c in compared.changes" :key="c.sentence">{{ c.sentence }}</li>
      </ul>
      <el-button @click="draw">Show it in the drawing</el-button>
    </section>
    <p class="row">
      <el-button @click="router.push('/')">All projects</el-button>
      <el-button
        @click="
          open = false;
          emit('shortcuts');
        "
      >
        Keyboard
      </el-button>
    </p>
  </el-dialog>
  <PhoneDialog v-model="phone" />
</template>

<style scoped>
h3 {
  margin: 14px 0 6px;
}
h3:first-child {
  margin-top: 0;
}
ul {
  margin: 6px 0 12px;
  padding: 0;
  list-style: none;
}
li {
  padding: 5px 0;
  border-bottom: 1px solid var(--hair);
}
.files {
  columns: 2;
}
.files li {
  break-inside: avoid;
}
.grow {
  flex: 1 1 200px;
}
@media (max-width: 720px) {
  .files {
    columns: 1;
  }
}
.changes {
  max-height: 240px;
  overflow-y: auto;
}
.paper {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  min-height: 32px;
}
</style>
