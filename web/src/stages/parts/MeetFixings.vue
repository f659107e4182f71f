<script setup lang="ts">
import { computed } from "vue";
import type { Part } from "@/api/types";
import LengthField from "@/fields/LengthField.vue";
import PlainField from "@/fields/PlainField.vue";
import RemovableGroup from "@/fields/RemovableGroup.vue";
import { useProject } from "@/store/project";
import { escapePointer, freshId, say } from "@/units/text";

/** Marks that fixings of the vehicle left on this board: each becomes a hole that works. */
const props = defineProps<{ part: Part }>();
const store = useProject();
const marks = computed(() =>
  Object.entries(store.project?.transfers ?? {}).filter(([, t]) =>
    props.part.boards.includes(t.board ?? ""),
  ),
);
const said = (id: string) => store.shown?.transferred.find((t) => t.id === id);
const at = (id: string) => `/transfers/${escapePointer(id)}`;
function add() {
  const value = { board: props.part.boards[0], left: null, low: null };
  const list = store.project?.transfers
    ? []
    : [{ op: "add" as const, path: "/transfers", value: {} }];
  void store.change([...list, { op: "add", path: at(freshId("m")), value }]);
}
</script>

<template>
  <h3>Fixings it has to meet</h3>
  <p class="soft">
    Press or rub the board against what is fixed in the vehicle, and measure each mark from two
    edges: the hole comes out as large as the mark is unsure.
  </p>
  <RemovableGroup
    v-for="([id, t], i) in marks"
    :key="id"
    :title="`Mark ${i + 1}`"
    :remove="`Remove mark ${i + 1}`"
    @remove="store.change([{ op: 'remove', path: at(id) }])"
  >
    <PlainField
      label="Of what"
      kind="text"
      :pointer="`${at(id)}/name`"
      :value="t.name"
      empty="bolt"
    />
    <LengthField
      label="From the left edge"
      :pointer="`${at(id)}/left`"
      :value="t.left"
      empty="not measured"
    />
    <LengthField
      label="Up from the lower edge"
      :pointer="`${at(id)}/low`"
      :value="t.low"
      empty="not measured"
    />
    <LengthField label="Bolt" :pointer="`${at(id)}/bolt`" :value="t.bolt ?? 8" />
    <LengthField label="Noise of a number" :pointer="`${at(id)}/sd`" :value="t.sd ?? 0.7" />
    <p class="small" role="status">
      <template v-if="said(id)?.wrong">{{ said(id)!.wrong }}</template>
      <template v-else-if="said(id)">
        Drill {{ say(said(id)!.hole, store.system, true) }}: the mark may be off by
        {{ say(said(id)!.off, store.system, true) }}.
      </template>
    </p>
  </RemovableGroup>
  <el-button @click="add">A mark</el-button>
</template>

<style scoped>
.small {
  margin: 4px 0;
  font-size: 14px;
}
</style>
