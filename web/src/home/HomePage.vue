<script setup lang="ts">
import { onMounted, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { api, freshKey, Refused } from "@/api/client";
import type { Listed, VehicleKind } from "@/api/types";

const router = useRouter();
const projects = ref<Listed[] | null>(null);
const name = ref("");
const kind = ref<VehicleKind>("van");
const inches = ref(false);
const error = ref("");
const file = ref<HTMLInputElement | null>(null);
const gone = ref<Listed[]>([]);
const removed = ref<Listed | null>(null);

const KINDS: readonly [VehicleKind, string][] = [
  ["van", "Panel van"],
  ["estate", "Estate car"],
  ["pickup", "Pickup bed"],
  ["box_trailer", "Box trailer"],
  ["v_nose_trailer", "V-nose trailer"],
  ["caravan", "Caravan"],
  ["boat", "Small boat"],
];
const words = (key: string) => KINDS.find(([k]) => k === key)?.[1] ?? "";

/** What was refused stays until the next press: the list that comes in later says nothing about it. */
async function tell<T>(work: () => Promise<T>, pressed = true): Promise<T | undefined> {
  if (pressed) error.value = "";
  try {
    return await work();
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    const { detail, pointer } = e.problem;
    error.value = pointer ? `${detail} (at ${pointer})` : detail;
    return undefined;
  }
}

onMounted(async () => {
  document.title = "Jig Fit";
  await refresh();
});

const busy = ref(false);
/** One press, one project: tried again after a failure it is the same request. */
let key = "";
watch([name, kind, inches], () => (key = ""));
async function start() {
  if (busy.value) return;
  busy.value = true;
  const mine = (key ||= freshKey());
  const system = inches.value ? "in" : "mm";
  const opened = await tell(() =>
    api.create(
      name.value,
      kind.value,
      {
        system,
        tape: system,
        denominator: 16,
        paper: inches.value ? "letter" : "a4",
        marks: null,
        printed_across: null,
        printed_up: null,
      },
      mine,
    ),
  );
  busy.value = false;
  if (!opened) return;
  key = "";
  await router.push({ name: "survey", params: { id: opened.id } });
}

async function refresh() {
  const all = await tell(api.list, false);
  projects.value = all ?? [];
  if (all) gone.value = (await tell(api.deleted, false)) ?? [];
}
async function remove(p: Listed) {
  await tell(() => api.remove(p.id));
  removed.value = p;
  await refresh();
}
async function bringBack(p: Listed) {
  await tell(() => api.undelete(p.id));
  removed.value = null;
  await refresh();
}
async function duplicate(p: Listed) {
  await tell(() => api.duplicate(p.id, freshKey()));
  await refresh();
}
async function rescue(p: Listed) {
  const opened = await tell(() => api.rescue(p.id, freshKey()));
  if (opened) await router.push({ name: "survey", params: { id: opened.id } });
}

async function demo() {
  const ids = await tell(api.demo);
  const id = ids?.at(-1);
  if (id) await router.push({ name: "survey", params: { id } });
}

async function take(event: Event) {
  const input = event.target as HTMLInputElement;
  const chosen = input.files?.[0];
  if (!chosen) return;
  const opened = await tell(async () => api.importFile(await chosen.text()));
  input.value = "";
  if (opened) await router.push({ name: "survey", params: { id: opened.id } });
}
</script>

<template>
  <main class="home">
    <header>
      <h1>Jig Fit</h1>
      <p>
        Plywood furniture for a vehicle in which nothing is square. Measure it with a tape; get the
        panels, what will go wrong, and the sheets.
      </p>
    </header>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <div class="columns">
      <section>
        <h2>Start with your vehicle</h2>
        <form @submit.prevent="start">
          <label for="new-name">What do you call it?</label>
          <el-input id="new-name" v-model="name" maxlength="80" placeholder="Moth" />
          <span id="kind-label" class="label">What kind is it?</span>
          <div class="kinds" role="radiogroup" aria-labelledby="kind-label">
            <label v-for="[id, text] in KINDS" :key="id" class="kind" :class="{ on: kind === id }">
              <input v-model="kind" type="radio" name="kind" :value="id" />{{ text }}
            </label>
          </div>
          <span class="label">What does your tape read?</span>
          <div class="kinds" role="radiogroup" aria-label="Tape">
            <label class="kind" :class="{ on: !inches }">
              <input v-model="inches" type="radio" name="tape" :value="false" />Millimetres
            </label>
            <label class="kind" :class="{ on: inches }">
              <input v-model="inches" type="radio" name="tape" :value="true" />Inches, sixteenths
            </label>
          </div>
          <el-button type="primary" native-type="submit" :disabled="!name.trim() || busy">
            Start measuring
          </el-button>
        </form>
      </section>
      <section>
        <h2>Your projects</h2>
        <p v-if="projects === null" class="soft">Reading…</p>
        <p v-else-if="projects.length === 0" class="soft">
          None yet. Start with your vehicle, or look at the demo first.
        </p>
        <ul v-else class="list">
          <li v-for="p in projects" :key="p.id">
            <div v-if="p.damaged" class="entry damaged">
              <b>{{ p.name }}</b>
              <span class="error">Damaged: {{ p.damaged }}</span>
              <span class="row">
                <el-button v-if="p.last_good" size="small" @click="rescue(p)"
                  >Open its last good state</el-button
                >
                <a :href="api.rawUrl(p.id)" :download="`${p.id}-raw.json`">What is stored of it</a>
                <el-button size="small" @click="remove(p)">Delete</el-button>
              </span>
            </div>
            <template v-else>
              <router-link class="entry" :to="{ name: 'survey', params: { id: p.id } }">
                <b>{{ p.name }}</b>
                <span class="soft">
                  {{ words(p.kind) }} · {{ new Date(p.changed).toLocaleDateString("en-GB") }} ·
                  {{ p.revision - 1 }} {{ p.revision === 2 ? "edit" : "edits" }}
                </span>
              </router-link>
              <span class="acts">
                <button
                  type="button"
                  class="plain act"
                  :aria-label="`Duplicate ${p.name}`"
                  @click="duplicate(p)"
                >
                  Duplicate
                </button>
                <button
                  type="button"
                  class="plain act"
                  :aria-label="`Delete ${p.name}`"
                  @click="remove(p)"
                >
                  Delete
                </button>
              </span>
            </template>
          </li>
        </ul>
        <p v-if="removed" role="status" class="row">
          {{ removed.name }} is deleted.
          <el-button size="small" @click="bringBack(removed)">Undo</el-button>
        </p>
        <details v-if="gone.length" class="gone">
          <summary>Deleted, kept for 30 days ({{ gone.length }})</summary>
          <p v-for="p in gone" :key="p.id" class="row spread">
            {{ p.name }}
            <el-button size="small" :aria-label="`Bring ${p.name} back`" @click="bringBack(p)"
              >Bring back</el-button
            >
          </p>
        </details>
        <p class="row">
          <el-button @click="demo">Open the demo</el-button>
          <el-button @click="file?.click()">Import a project file</el-button>
          <input
            ref="file"
            type="file"
            accept=".json,application/json"
            class="hidden-text"
            aria-label="Project file"
            tabindex="-1"
            @change="take"
          />
        </p>
      </section>
    </div>
  </main>
</template>

<style scoped>
.home {
  max-width: 980px;
  margin: 0 auto;
  padding: 40px 20px;
}
header {
  border-bottom: 1.5px solid var(--ink);
  padding-bottom: 14px;
  margin-bottom: 24px;
}
h1 {
  font-size: 34px;
}
.columns {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 40px;
}
form {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 6px;
  margin-top: 10px;
}
label,
.label {
  font-weight: 600;
  margin-top: 8px;
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 8px;
}
.kind {
  margin: 0;
  padding: 8px 12px;
  min-height: var(--touch);
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
  font-weight: 500;
  display: flex;
  align-items: center;
  gap: 8px;
  cursor: pointer;
}
.kind.on {
  border-color: var(--ink);
  background: var(--ground);
}
.kind input {
  accent-color: var(--ink);
}
.list {
  list-style: none;
  padding: 0;
  margin: 10px 0 18px;
}
.list li {
  position: relative;
  margin-bottom: 8px;
}
.acts {
  position: absolute;
  right: 8px;
  top: 8px;
  display: flex;
  gap: 12px;
}
.act {
  font-size: 14px;
  text-decoration: underline;
  min-height: 32px;
}
.damaged {
  border-left-color: var(--stop) !important;
}
.gone {
  margin-bottom: 14px;
}
.entry {
  display: block;
  padding: 10px 12px;
  border-left: 8px solid var(--ply);
  background: var(--ground);
  text-decoration: none;
  margin-bottom: 8px;
}
.list span {
  display: block;
}
.list .acts {
  display: flex;
  gap: 12px;
}
@media (max-width: 720px) {
  .home {
    padding: 20px 14px;
  }
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
