<script setup lang="ts">
import type { Step } from "@/api/types";
import { useProject } from "@/store/project";
import { say } from "@/units/text";

/** The lines of a number; a line that is made of others opens to show them. */
defineProps<{ steps: Step[] }>();
const store = useProject();
</script>

<template>
  <ul class="steps">
    <li v-for="(step, i) in steps" :key="i">
      <details v-if="step.steps?.length">
        <summary>
          <span class="mono">{{ step.op }} {{ say(step.figure, store.system) }}</span>
          <span>{{ step.label }}</span>
        </summary>
        <WhySteps :steps="step.steps" />
      </details>
      <div v-else class="line">
        <span class="mono">{{ step.op }} {{ say(step.figure, store.system) }}</span>
        <span>{{ step.label }}</span>
      </div>
    </li>
  </ul>
</template>

<style scoped>
.steps {
  list-style: none;
  margin: 2px 0;
  padding: 0;
}
.line,
summary {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr);
  gap: 10px;
  padding: 2px 0;
}
summary {
  cursor: pointer;
}
summary > span:last-child {
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.mono {
  text-align: right;
  white-space: nowrap;
}
.steps .steps {
  margin-left: 24px;
  padding-left: 6px;
  border-left: 1.5px solid var(--hair-strong);
}
</style>
