<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from "vue";
import { useRoute } from "vue-router";
import { STAGES } from "@/stages/stages";
import { useProject } from "@/store/project";

const store = useProject();
const route = useRoute();

const rows = computed(() =>
  STAGES.map((stage) => {
    const state = store.shown?.stages.find((s) => s.id === stage.id);
    const needs = state?.needs ?? 0;
    return {
      ...stage,
      here: route.name === stage.id,
      sign: state?.state === "done" ? "✓" : state?.state === "needs" ? String(needs) : "·",
      word:
        state?.state === "needs"
          ? `needs ${needs} ${needs === 1 ? "number" : "numbers"}`
          : (state?.note ?? ""),
      stop: state?.worst === "stop",
    };
  }),
);

/** On the phone the strip is wider than the screen: the open stage stays in sight. */
const strip = ref<HTMLElement | null>(null);
async function toOpen() {
  await nextTick();
  const here = strip.value?.querySelector(".here");
  here?.scrollIntoView?.({ inline: "center", block: "nearest" });
}
onMounted(toOpen);
watch(() => route.name, toOpen);
</script>

<template>
  <nav ref="strip" class="strip" aria-label="Stages">
    <router-link
      v-for="row in rows"
      :key="row.id"
      :to="{ name: row.id, params: { id: store.id } }"
      class="stage-link"
      :class="{ here: row.here }"
      :aria-current="row.here ? 'step' : undefined"
    >
      <span class="sign mono" aria-hidden="true">{{ row.sign }}</span>
      <span>
        <b>{{ row.name }}</b>
        <small
          >{{ row.word }}<template v-if="row.stop"> · <i>stop</i></template></small
        >
      </span>
    </router-link>
  </nav>
</template>

<style scoped>
.strip {
  grid-area: strip;
  background: var(--ground);
  border-right: 1.5px solid var(--hair);
  padding: 12px 0 12px 8px;
  overflow-y: auto;
}
.stage-link {
  display: grid;
  grid-template-columns: 26px 1fr;
  padding: 8px 8px 8px 6px;
  text-decoration: none;
  border: 1.5px solid transparent;
  border-right: 0;
  margin-right: -1.5px;
}
.stage-link.here {
  background: var(--paper);
  border-color: var(--ink);
}
.sign {
  font-weight: 700;
}
b,
small {
  display: block;
}
small {
  color: var(--ink-2);
  font-size: 13px;
}
i {
  color: var(--stop);
  font-style: normal;
  font-weight: 700;
}
@media (max-width: 720px) {
  .strip {
    display: flex;
    overflow-x: auto;
    padding: 0;
    border: 0;
    border-bottom: 1.5px solid var(--hair);
  }
  .stage-link {
    min-height: var(--touch);
    align-items: center;
    grid-template-columns: auto auto;
    gap: 6px;
    padding: 4px 12px;
    border: 0;
    margin: 0;
  }
  .stage-link.here {
    border-bottom: 3px solid var(--ink);
  }
  small {
    display: none;
  }
}
</style>
