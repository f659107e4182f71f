<script setup lang="ts">
import { computed, ref } from "vue";
import { useNarrow } from "@/shell/useNarrow";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { both, say } from "@/units/text";
import PhoneSurvey from "./PhoneSurvey.vue";
import SurveyPlan from "./SurveyPlan.vue";
import SurveySetup from "./SurveySetup.vue";
import SurveySide from "./SurveySide.vue";
import SurveyTable from "./SurveyTable.vue";

const store = useProject();
const view = useView();
const narrow = useNarrow();
const level = ref(0);
const setup = ref(false);

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
        <el-button @click="setup = true">Places and things</el-button>
      </div>
    </div>
    <p class="soft lead">
      <template v-if="current">
        Next: {{ current.prompt.toLowerCase() }}. {{ current.why }}
      </template>
      <template v-else>{{ bayWords }}</template>
    </p>
    <SurveyPlan :z="z" :ask="view.again ? null : current" />
    <div class="below">
      <SurveySide :ask="view.again ? null : current" />
      <section v-if="next.length" class="next">
        <h3>Measure next</h3>
        <ol>
          <li v-for="a in next.slice(0, 8)" :key="a.key">
            <button
              type="button"
              class="plain link"
              :aria-current="a.key === current?.key"
              @click="view.pick(a.key)"
            >
              {{ a.prompt }}
            </button>
            <span v-if="!a.needed" class="soft"> · a check, not needed</span>
          </li>
        </ol>
        <p v-if="next.length > 8" class="soft">and {{ next.length - 8 }} more</p>
      </section>
    </div>
    <SurveyTable />
    <SurveySetup v-model="setup" />
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
  padding: 4px 12px;
  font-weight: 600;
  color: var(--ink-2);
}
.switch button[aria-pressed="true"] {
  background: var(--ink);
  color: var(--on-ink);
}
.below {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 24px;
}
.next {
  max-width: 280px;
}
.next ol {
  margin: 4px 0;
  padding-left: 22px;
}
.link {
  text-decoration: underline;
  padding: 2px 0;
}
.link[aria-current="true"] {
  font-weight: 700;
}
</style>
