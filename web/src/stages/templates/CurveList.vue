<script setup lang="ts">
import type { FileCurve } from "@/api/types";
import { useProject } from "@/store/project";
import { freshId, say } from "@/units/text";

/** Curves that were found in a file or a photo, each to be taken as a captured one. */
defineProps<{ curves: FileCurve[] }>();
const emit = defineEmits<{ taken: [string] }>();
const store = useProject();
async function take(curve: FileCurve) {
  const id = freshId("c");
  const list = store.project?.templates
    ? []
    : [{ op: "add" as const, path: "/templates", value: {} }];
  const patch = [...list, { op: "add" as const, path: `/templates/${id}`, value: curve.template }];
  if (await store.change(patch)) emit("taken", id);
}
</script>

<template>
  <div class="scroll-x" tabindex="0" role="group" aria-label="Curves that were found">
    <table class="paper-table">
      <thead>
        <tr>
          <th>curve</th>
          <th>length</th>
          <th>wide × high</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(c, i) in curves" :key="i">
          <td>{{ c.name }}<template v-if="c.closed">, closed</template></td>
          <td class="figure">{{ say(c.length, store.system, true) }}</td>
          <td class="figure">
            {{ say(c.size[0]!, store.system) }} × {{ say(c.size[1]!, store.system, true) }}
          </td>
          <td>
            <span v-if="c.cannot" class="soft">{{ c.cannot }}</span>
            <el-button v-else :aria-label="`Take ${c.name}`" @click="take(c)">Take</el-button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
