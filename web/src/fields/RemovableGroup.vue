<script setup lang="ts">
/** Fields that belong together, with a button that takes them all away. */
defineProps<{ title: string; remove: string }>();
const emit = defineEmits<{ remove: [] }>();
</script>

<template>
  <fieldset class="group">
    <legend>{{ title }}</legend>
    <slot />
    <el-button class="drop" :aria-label="remove" @click="emit('remove')">×</el-button>
  </fieldset>
</template>

<style scoped>
.group {
  position: relative;
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 4px 12px;
  margin: 0 0 8px;
  padding: 4px 12px 8px;
  border: 1px solid var(--hair-strong);
  border-radius: var(--r);
}
.group legend {
  padding: 0 6px;
  font-weight: 600;
}
.drop {
  position: absolute;
  top: -14px;
  right: 10px;
}
</style>
