<script setup lang="ts" generic="E extends { name: string }">
import ChoiceField from "./ChoiceField.vue";
import HeightsField from "./HeightsField.vue";
import LengthField from "./LengthField.vue";
import PlainField from "./PlainField.vue";
import type { Column } from "./columns";
import { useProject } from "@/store/project";
import { putting } from "@/store/put";
import { escapePointer, freshId } from "@/units/text";
import type { Operation } from "@/api/types";

/** The entries of a list of the document, a row each: fields to fill in, and a way to remove it. */
const props = defineProps<{
  /** Where the list is: `/survey/seats`. */
  list: string;
  entries: Record<string, E> | undefined;
  columns: readonly Column[];
  /** Word on the button that adds one, and what is added. Without it nothing can be added here. */
  add?: string;
  fresh?: object;
  /** What else goes when an entry goes. */
  with?: (id: string) => Operation[];
}>();
const store = useProject();
const at = (id: string | number, field: string) =>
  `${props.list}/${escapePointer(String(id))}/${field}`;
/** The value of a field such as `at/1`. */
function of(entry: E, field: string): unknown {
  return field
    .split("/")
    .reduce<unknown>((o, key) => (o as Record<string, unknown> | undefined)?.[key], entry);
}
const used = (entry: E) => props.columns.filter((c) => c.when?.(entry as never) ?? true);
type Plain = string | number | null | undefined;
const plain = (entry: E, c: Column) => of(entry, c.field) as Plain;
const length = (entry: E, c: Column) =>
  (of(entry, c.field) ?? c.otherwise) as number | null | undefined;
const heights = (entry: E, c: Column) => of(entry, c.field) as number[] | undefined;
function put(path: string, value: unknown) {
  void store.change([putting(store.project, path, value)]);
}
function remove(id: string) {
  void store.change([
    ...(props.with?.(id) ?? []),
    { op: "remove", path: `${props.list}/${escapePointer(id)}` },
  ]);
}
</script>

<template>
  <div v-for="(entry, id) in entries" :key="id" class="row line">
    <template v-for="c in used(entry)" :key="c.field">
      <PlainField
        v-if="c.as === 'text' || c.as === 'number'"
        :label="c.label"
        :kind="c.as"
        :unit="c.unit"
        :pointer="at(id, c.field)"
        :value="plain(entry, c)"
      />
      <LengthField
        v-else-if="c.as === 'length'"
        :label="c.label"
        :pointer="at(id, c.field)"
        :value="length(entry, c)"
      />
      <ChoiceField
        v-else-if="c.as === 'choice'"
        :label="c.label"
        :pointer="at(id, c.field)"
        :value="(of(entry, c.field) ?? c.otherwise) as string"
        :options="c.options"
      />
      <HeightsField
        v-else-if="c.as === 'heights'"
        :label="c.label"
        :pointer="at(id, c.field)"
        :value="heights(entry, c)"
      />
      <el-checkbox
        v-else
        :data-pointer="at(id, c.field)"
        :model-value="Boolean(of(entry, c.field) ?? c.otherwise)"
        @change="put(at(id, c.field), Boolean($event))"
        >{{ c.label }}</el-checkbox
      >
    </template>
    <el-button :aria-label="`Remove ${entry.name}`" @click="remove(String(id))">Remove</el-button>
  </div>
  <el-button
    v-if="add"
    class="add"
    @click="put(`${list}/${freshId(list.split('/').at(-1)![0]!)}`, fresh)"
    >{{ add }}</el-button
  >
</template>

<style scoped>
.line {
  flex-wrap: wrap;
  align-items: start;
  padding: 6px 0;
  border-bottom: 1px solid var(--hair);
}
.add {
  margin-top: 8px;
}
/* In line with the fields, under where their labels are. */
.line > :deep(.el-button),
.line > :deep(.el-checkbox) {
  margin-top: 20px;
}
</style>
