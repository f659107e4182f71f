<script setup lang="ts">
import { computed } from "vue";
import PlainField from "@/fields/PlainField.vue";
import { useProject } from "@/store/project";
import { escapePointer } from "@/units/text";

/** Stiffness and density of the boards: published tables, or the user's own numbers. */
const store = useProject();
const materials = computed(() => store.shown?.materials ?? []);
const at = (id: string) => `/materials/${escapePointer(id)}`;

function correct(id: string) {
  const found = materials.value.find((m) => m.id === id);
  if (found) void store.change([{ op: "add", path: at(id), value: found.material }]);
}
function restore(id: string) {
  void store.change([{ op: "remove", path: at(id) }]);
}
</script>

<template>
  <details class="materials">
    <summary>Boards and bars: stiffness and density</summary>
    <section v-for="m in materials" :key="m.id" :aria-label="m.material.name">
      <div class="row spread">
        <h3>{{ m.material.name }}</h3>
        <el-button v-if="!m.own" @click="correct(m.id)">Use my own numbers</el-button>
        <el-button v-else @click="restore(m.id)">Back to the published numbers</el-button>
      </div>
      <p v-if="m.sold" class="figure">{{ m.sold }}</p>
      <p class="soft">{{ m.own ? "Your own numbers." : m.material.source }}</p>
      <PlainField
        v-if="m.own"
        label="Density"
        unit="kg/m³"
        kind="number"
        :pointer="`${at(m.id)}/density`"
        :value="m.material.density"
      />
      <p v-else>Density {{ m.material.density }} kg/m³</p>
      <table class="paper-table">
        <thead>
          <tr>
            <th>Thickness, mm</th>
            <th>E along the grain, N/mm²</th>
            <th>E across, N/mm²</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(g, i) in m.material.grades" :key="i">
            <td class="figure">{{ g.thickness }}</td>
            <template v-if="m.own">
              <td>
                <PlainField
                  hide-label
                  :label="`E along at ${g.thickness} mm`"
                  kind="number"
                  :pointer="`${at(m.id)}/grades/${i}/e_along`"
                  :value="g.e_along"
                />
              </td>
              <td>
                <PlainField
                  hide-label
                  :label="`E across at ${g.thickness} mm`"
                  kind="number"
                  :pointer="`${at(m.id)}/grades/${i}/e_across`"
                  :value="g.e_across"
                />
              </td>
            </template>
            <template v-else>
              <td class="figure">{{ g.e_along }}</td>
              <td class="figure">{{ g.e_across }}</td>
            </template>
          </tr>
        </tbody>
      </table>
    </section>
  </details>
</template>

<style scoped>
.materials {
  margin-top: 16px;
  border-top: 1.5px solid var(--hair-strong);
  padding-top: 8px;
}
summary {
  cursor: pointer;
  font-weight: 700;
  min-height: 32px;
}
section {
  margin-bottom: 16px;
  max-width: 560px;
}
</style>
