<script setup lang="ts">
import { computed } from "vue";
import FormFields from "@/fields/FormFields.vue";
import { useProject } from "@/store/project";

/** What holds the picked piece to the vehicle, and in which order everything comes out again. */
const props = defineProps<{ module: string }>();
const store = useProject();
const hold = computed(() => store.shown?.holds.find((h) => h.module === props.module) ?? null);
// Fields show what is stored.
const form = computed(() => store.plan?.holds.find((h) => h.module === props.module)?.form ?? []);
// Of the views: they answer while a piece is pulled at.
const mark = (board: string) => store.shown?.views.above.find((b) => b.board === board)?.mark ?? "";
const out = computed(() => store.shown?.out ?? null);
</script>

<template>
  <section v-if="hold" class="hold" aria-label="Held to the vehicle">
    <h3>Held to the vehicle</h3>
    <FormFields :fields="form" />
    <p>
      With what is in it {{ hold.weighs }}. Braking hard pulls it forward with {{ hold.forward }}, a
      bend sideways with {{ hold.side }}.
      <b :class="{ short: !hold.holds }">{{ hold.words }}</b>
    </p>
    <table v-if="hold.points.length">
      <thead>
        <tr>
          <th>At</th>
          <th>Board</th>
          <th>What is done</th>
          <th>Bears</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(p, i) in hold.points" :key="i" :class="{ short: !p.enough }">
          <td>{{ p.name }}</td>
          <td class="mono">{{ mark(p.board) }}</td>
          <td>{{ p.words }}</td>
          <td class="mono takes">{{ p.takes }}</td>
        </tr>
      </tbody>
    </table>
    <details v-if="out?.steps.length">
      <summary>{{ out.words }}</summary>
      <ol>
        <li v-for="s in out.steps" :key="s.module">{{ s.words }}</li>
      </ol>
    </details>
    <p class="soft">
      This is no approval. Seats, belts and their anchors are safety parts: follow the vehicle maker
      and local rules. Before drilling look at what is behind.
    </p>
  </section>
</template>

<style scoped>
.hold {
  border-top: 1.5px solid var(--hair-strong);
  margin-top: 8px;
  padding-top: 6px;
}
h3 {
  margin: 4px 0;
  font-size: 16px;
}
p {
  margin: 6px 0;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 4px 12px 4px 0;
  border-bottom: 1px solid var(--hair);
  vertical-align: top;
}
.takes {
  white-space: nowrap;
}
.short {
  color: var(--look);
}
summary {
  cursor: pointer;
  padding: 6px 0;
}
</style>
