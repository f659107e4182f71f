<script setup lang="ts">
import { computed, ref } from "vue";
import { useNarrow } from "@/shell/useNarrow";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { both, say } from "@/units/text";
import FittingsDialog from "./FittingsDialog.vue";
import MeasureNext from "./MeasureNext.vue";
import PhoneSurvey from "./PhoneSurvey.vue";
import ReadingsIn from "./ReadingsIn.vue";
import SurveyPlan from "./SurveyPlan.vue";
import SurveySetup from "./SurveySetup.vue";
import SurveySide from "./SurveySide.vue";
import SurveyTable from "./SurveyTable.vue";

const store = useProject();
const view = useView();
const narrow = useNarrow();
const level = ref(0);
const setup = ref(false);
const fittings = ref(false);
const files = ref(false);
const side = ref<"both" | "left" | "right" | "compare">("both");

const SIDES = [
  ["both", "both sides"],
  ["left", "left"],
  ["right", "right"],
  ["compare", "right laid over left"],
] as const;

const levels = computed(() =>
  Object.values(store.project?.survey?.levels ?? {}).sort((a, b) => a.z - b.z),
);
const survey = computed(() => store.shown?.survey);
const next = computed(() => (store.plan?.asks ?? []).filter((a) => a.stage === "survey"));
const current = computed(
  () => next.value.find((a) => a.key === view.picked) ?? next.value.find((a) => a.needed),
);
const z = computed(() => levels.value[level.value]?.z ?? 0);
const bayWords = computed(() => {
  const l = survey.value?.length;
  const opening = survey.value?.opening;
  const parts = [];
  if (l) parts.push(`bay ${both(l, store.system)} long`);
  if (opening)
    parts.push(
      `rear opening ${say(opening[0] as never, store.system)} × ${say(opening[1] as never, store.system, true)}`,
    );
  return parts.join(" · ");
});
</script>

<template>
  <PhoneSurvey v-if="narrow" />
  <template v-else-if="survey">
    <div class="row spread">
      <h2>Bay at {{ levels[level]?.name ?? "floor" }}</h2>
      <div class="row">
        <div class="switch" role="group" aria-label="Height shown">
          <button
            v-for="(l, i) in levels"
            :key="l.z"
            type="button"
            class="plain"
            :aria-pressed="i === level"
            @click="level = i"
          >
            {{ l.name }}
          </button>
        </div>
        <div class="switch" role="group" aria-label="Sides shown">
          <button
            v-for="[id, word] in SIDES"
            :key="id"
            type="button"
            class="plain"
            :aria-pressed="side === id"
            @click="side = id"
          >
            {{ word }}
          </button>
        </div>
      </div>
    </div>
    <p class="soft lead">
      <b>{{ store.plan?.progress?.sentence }}</b> {{ bayWords }}
    </p>
    <SurveyPlan :z="z" :ask="view.again ? null : current" :side="side" />
    <div class="below">
      <div>
        <SurveySide :ask="view.again ? null : current" />
        <p class="row">
          <el-button @click="setup = true">Places and things</el-button>
          <el-button @click="fittings = true">Fixings, doors, datums</el-button>
          <el-button @click="files = true">Scan or table</el-button>
        </p>
      </div>
      <MeasureNext :asks="next" :current="current?.key ?? ''" />
    </div>
    <SurveyTable :z="z" />
    <SurveySetup v-model="setup" />
    <FittingsDialog v-model="fittings" />
    <ReadingsIn v-model="files" />
  </template>
</template>

<style scoped>
.lead {
  margin: 2px 0 8px;
  font-size: 15px;
}
.switch {
  display: flex;
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
}
.switch button {
  padding: 4px 10px;
  font-weight: 600;
  color: var(--ink-2);
}
.switch button[aria-pressed="true"] {
  background: var(--ink);
  color: var(--on-ink);
}
.below {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(260px, 0.62fr);
  gap: 24px;
}
</style>
