<script setup lang="ts">
import { computed } from "vue";
import type { Ask } from "@/api/types";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import { say } from "@/units/text";

/** What to measure next, best first: what each reading takes off the doubt of the panels' edges. */
const props = defineProps<{ asks: Ask[]; current: string }>();
const store = useProject();
const view = useView();
const thorough = computed(() => store.project?.survey?.protocol ?? "full");
const PROTOCOLS = [
  ["quick", "quick"],
  ["full", "full"],
] as const;

const goal = computed(() => say(store.plan?.progress.goal, store.system, true));
const BUILDS = [
  ["bed", "up to the bed"],
  ["high", "also up high"],
] as const;
const build = computed(() => store.project?.survey?.build ?? "bed");
function plan(to: string) {
  void store.change([{ op: "add", path: "/survey/build", value: to }]);
}

function choose(to: string) {
  void store.change([{ op: "add", path: "/survey/protocol", value: to }]);
}
</script>

<template>
  <section class="next">
    <h3>Measure next</h3>
    <div class="switch" role="group" aria-label="How thoroughly">
      <button
        v-for="[id, word] in PROTOCOLS"
        :key="id"
        type="button"
        class="plain"
        :aria-pressed="thorough === id"
        @click="choose(id)"
      >
        {{ word }}
      </button>
    </div>
    <p class="soft">
      {{
        thorough === "quick"
          ? `${store.plan?.progress.quick}: edges to about ${goal}. Does the idea fit at all?`
          : `${store.plan?.progress.full}, each checked by another: to cut by.`
      }}
    </p>
    <p class="soft">
      What will you build? Cabinets, shelves or a console up high want the walls there.
    </p>
    <div class="switch" role="group" aria-label="What will you build">
      <button
        v-for="[id, word] in BUILDS"
        :key="id"
        type="button"
        class="plain"
        :aria-pressed="build === id"
        @click="plan(id)"
      >
        {{ word }}
      </button>
    </div>
    <ol v-if="props.asks.length">
      <li v-for="a in props.asks.slice(0, 7)" :key="a.key">
        <button
          type="button"
          class="plain link"
          :aria-current="a.key === current"
          @click="view.pick(a.key)"
        >
          {{ a.prompt }}
        </button>
        <span class="soft">
          <template v-if="a.gain && a.gain.value >= 0.05">
            · takes ±{{ say(a.gain, store.system) }} off, {{ a.minutes }} min</template
          >
          <template v-else-if="a.gain">
            · makes edges elsewhere surer, {{ a.minutes }} min</template
          >
          <template v-else-if="a.again"> · read again</template>
          <template v-else-if="!a.needed"> · a check, not needed</template>
        </span>
        <span v-if="a.key === current" class="why">{{ a.why }}</span>
      </li>
    </ol>
    <p v-if="props.asks.length > 7" class="soft">and {{ props.asks.length - 7 }} more</p>
  </section>
</template>

<style scoped>
.next ol {
  margin: 8px 0 4px;
  padding-left: 22px;
}
.switch {
  display: flex;
  width: fit-content;
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
}
.switch button {
  padding: 3px 9px;
  font-weight: 600;
  color: var(--ink-2);
}
.switch button[aria-pressed="true"] {
  background: var(--ink);
  color: var(--on-ink);
}
.link {
  /* The number stands at the first line. */
  vertical-align: top;
  text-decoration: underline;
  padding: 2px 0;
  text-align: left;
}
.link[aria-current="true"] {
  font-weight: 700;
}
.why {
  display: block;
  font-size: 14px;
  line-height: 1.3;
}
</style>
