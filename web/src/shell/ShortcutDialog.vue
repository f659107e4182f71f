<script setup lang="ts">
import { SHORTCUTS } from "./useShortcuts";

const open = defineModel<boolean>({ required: true });
</script>

<template>
  <el-dialog v-model="open" title="Keyboard" width="min(480px, 94vw)">
    <table class="paper-table">
      <tbody>
        <tr v-for="[key, words] in SHORTCUTS" :key="key">
          <td class="figure">{{ key }}</td>
          <td>{{ words }}</td>
        </tr>
      </tbody>
    </table>
  </el-dialog>
</template>
