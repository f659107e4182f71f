<script setup lang="ts">
import type { Offer } from "@/api/types";

/** A change that can be made, what it brings, and the button that makes it. */
defineProps<{ offer: Offer }>();
const emit = defineEmits<{ take: [Offer] }>();
</script>

<template>
  <div class="offer">
    <p>
      {{ offer.label }}<span v-if="offer.cost" class="soft">: {{ offer.cost }}</span>
    </p>
    <el-button size="small" :aria-label="`Do it: ${offer.label}`" @click="emit('take', offer)">
      Do it
    </el-button>
  </div>
</template>

<style scoped>
.offer {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  border-top: 1px dashed var(--hair-strong);
  padding: 7px 10px;
  font-size: 14px;
}
</style>
