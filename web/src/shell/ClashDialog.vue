<script setup lang="ts">
import { computed } from "vue";
import { useProject } from "@/store/project";

const store = useProject();
const open = computed({
  get: () => store.clash !== null,
  set: (on) => {
    if (!on) void store.settle(false);
  },
});

/** A value in few words. */
function words(value: unknown): string {
  if (value === null || value === undefined) return "nothing";
  if (typeof value === "object") return JSON.stringify(value);
  return String(value);
}
</script>

<template>
  <el-dialog v-model="open" title="Changed in another window" width="min(560px, 94vw)">
    <p>The same thing was changed elsewhere since you saw it. Which value shall stand?</p>
    <table class="paper-table">
      <thead>
        <tr>
          <th>Where</th>
          <th>There now</th>
          <th>Yours</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in store.clash?.conflicts" :key="c.pointer">
          <td>{{ c.pointer.split("/").filter(Boolean).join(" › ") }}</td>
          <td class="figure theirs">{{ words(c.theirs) }}</td>
          <td class="figure yours">{{ words(c.yours) }}</td>
        </tr>
      </tbody>
    </table>
    <template #footer>
      <el-button @click="store.settle(false)">Keep what is there</el-button>
      <el-button type="primary" @click="store.settle(true)">Use mine</el-button>
    </template>
  </el-dialog>
</template>
