<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from "vue";
import { useRoute, useRouter } from "vue-router";
import { Refused } from "@/api/client";
import type { Problem } from "@/api/types";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import ClashDialog from "./ClashDialog.vue";
import FindingsRail from "./FindingsRail.vue";
import ShortcutDialog from "./ShortcutDialog.vue";
import StageStrip from "./StageStrip.vue";
import TapeBar from "./TapeBar.vue";
import TopBar from "./TopBar.vue";
import { useNarrow } from "./useNarrow";
import { useShortcuts } from "./useShortcuts";

const props = defineProps<{ id: string }>();
const store = useProject();
const view = useView();
const route = useRoute();
const router = useRouter();
const narrow = useNarrow();
const missing = ref<Problem | null>(null);
const shortcuts = useShortcuts();

watch(
  () => props.id,
  async (id) => {
    missing.value = null;
    try {
      await store.open(id);
      document.title = `${store.project?.name ?? ""} · Jig Fit`;
    } catch (e) {
      if (!(e instanceof Refused)) throw e;
      missing.value = e.problem;
    }
  },
  { immediate: true },
);
/** What a finding showed when the stage was last changed. */
let shownBefore = "";
watch(
  () => route.name,
  () => {
    view.picked = "";
    view.findings = false;
    // A page opens at its top, unless something on it is shown.
    if (view.marked === shownBefore) document.querySelector("#stage")?.scrollTo({ top: 0 });
    shownBefore = view.marked;
  },
);
onBeforeUnmount(() => store.close());
function leave() {
  store.stopWaiting();
  void router.push("/");
}

/** In the vehicle the survey is one question and a keypad. */
const inVehicle = computed(() => narrow.value && route.name === "survey");
</script>

<template>
  <main v-if="missing" class="missing">
    <h1>{{ missing.title }}</h1>
    <p>{{ missing.detail }}</p>
    <p><router-link to="/">All projects</router-link></p>
  </main>
  <div
    v-else-if="store.project && store.plan"
    class="frame"
    :class="{ vehicle: inVehicle }"
    :data-saving="store.saving"
  >
    <a class="skip" href="#stage">Skip to the stage</a>
    <p v-if="store.slow" class="slow" role="status">
      Working the plan out…
      <el-button v-if="store.saving" size="small" @click="store.stopWaiting">
        Stop and take it back
      </el-button>
    </p>
    <TopBar @shortcuts="shortcuts.open.value = true" />
    <StageStrip v-if="!inVehicle" />
    <main id="stage" class="stage" tabindex="-1">
      <p v-if="store.failed" class="failed" role="alert">
        {{ store.failed.detail }}
        <template v-if="store.failed.allowed"> Allowed: {{ store.failed.allowed }}.</template>
        <el-button size="small" @click="store.failed = null">Close</el-button>
      </p>
      <router-view />
    </main>
    <FindingsRail v-if="!inVehicle" />
    <TapeBar v-if="!inVehicle" />
    <ClashDialog />
    <ShortcutDialog v-model="shortcuts.open.value" />
  </div>
  <main v-else class="missing">
    <p>Opening…</p>
    <p v-if="store.slow" role="status">
      This takes a while: many readings.
      <el-button size="small" @click="leave">Stop and go back</el-button>
    </p>
  </main>
</template>

<style scoped>
.frame {
  display: grid;
  height: 100%;
  grid-template:
    "top top top" auto
    "strip stage rail" minmax(0, 1fr)
    "tape tape tape" auto / 176px minmax(0, 1fr) 308px;
}
.stage {
  grid-area: stage;
  /* What is placed absolutely in it scrolls with it, and does not lengthen the page. */
  position: relative;
  overflow: auto;
  padding: 14px 22px 20px;
}
.stage:focus {
  outline: none;
}
.skip {
  position: absolute;
  left: -999px;
  z-index: 20;
  background: var(--paper);
  padding: 8px;
}
.skip:focus {
  left: 8px;
  top: 8px;
}
.slow {
  position: fixed;
  left: 50%;
  top: 8px;
  transform: translateX(-50%);
  z-index: 30;
  padding: 4px 14px;
  background: var(--ink);
  color: var(--on-ink);
}
.failed {
  border-left: 8px solid var(--stop);
  background: var(--ground);
  padding: 8px 12px;
  margin-bottom: 12px;
}
.missing {
  max-width: 60ch;
  margin: 15vh auto;
  padding: 0 20px;
}
@media (max-width: 720px) {
  .frame {
    grid-template:
      "top" auto
      "strip" auto
      "stage" minmax(0, 1fr)
      "tape" auto / minmax(0, 1fr);
  }
  .frame.vehicle {
    grid-template:
      "top" auto
      "stage" minmax(0, 1fr) / minmax(0, 1fr);
  }
  .stage {
    /* The folded findings lie over its lower end. */
    padding: 12px 14px calc(var(--touch) + 16px);
  }
  .vehicle .stage {
    padding: 0;
  }
}
</style>
