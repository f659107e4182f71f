<script setup lang="ts">
import { computed, ref } from "vue";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";
import ProjectMenu from "./ProjectMenu.vue";
import { useNarrow } from "./useNarrow";

defineEmits<{ shortcuts: [] }>();
const store = useProject();
const view = useView();
const narrow = useNarrow();
const menu = ref(false);

const saved = computed(() => {
  if (store.saving) return "Saving…";
  const at = new Date(store.changed);
  return `Saved · ${at.toLocaleTimeString("en", { hour: "2-digit", minute: "2-digit", hour12: false })}`;
});
const inches = computed(() => store.system === "in");

function setSystem(system: "mm" | "in") {
  void store.change([
    { op: "add", path: "/units/system", value: system },
    { op: "add", path: "/units/tape", value: system },
  ]);
}
</script>

<template>
  <header class="top">
    <router-link to="/" class="brand">Jig Fit</router-link>
    <span class="name">{{ store.project?.name }}</span>
    <span class="saved soft" role="status">{{ saved }}</span>
    <el-button :disabled="!store.canUndo" @click="store.history('undo')">Undo</el-button>
    <el-button v-if="!narrow" :disabled="!store.canRedo" @click="store.history('redo')">
      Redo
    </el-button>
    <div v-if="!narrow" class="switch" role="group" aria-label="Units">
      <button type="button" class="plain" :aria-pressed="inches" @click="setSystem('in')">
        in ¹⁄₁₆
      </button>
      <button type="button" class="plain" :aria-pressed="!inches" @click="setSystem('mm')">
        mm
      </button>
    </div>
    <el-button v-if="!narrow" @click="view.night = !view.night">
      {{ view.night ? "Night" : "Day" }}
    </el-button>
    <el-button @click="menu = true">Menu</el-button>
    <ProjectMenu v-model="menu" @shortcuts="$emit('shortcuts')" />
  </header>
</template>

<style scoped>
.top {
  grid-area: top;
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 9px 18px;
  border-bottom: 1.5px solid var(--ink);
  background: var(--paper);
  min-width: 0;
}
.top :deep(.el-button + .el-button) {
  margin-left: 0;
}
.brand {
  font-weight: 800;
  font-size: 19px;
  text-decoration: none;
}
.name {
  color: var(--ink-2);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.saved {
  margin-left: auto;
  white-space: nowrap;
}
.switch {
  display: flex;
  border: 1.5px solid var(--hair-strong);
  border-radius: var(--r);
}
.switch button {
  padding: 4px 11px;
  font-weight: 600;
  color: var(--ink-2);
  white-space: nowrap;
}
.switch button[aria-pressed="true"] {
  background: var(--ink);
  color: var(--on-ink);
}
@media (max-width: 720px) {
  .top {
    gap: 8px;
    padding: 6px 12px;
  }
  .brand {
    display: none;
  }
  .name {
    font-weight: 700;
    color: var(--ink);
  }
}
</style>
