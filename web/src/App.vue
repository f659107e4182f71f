<script setup lang="ts">
import { onBeforeUnmount, onMounted } from "vue";
import { closeOnEscape } from "@/shell/escape";

// On the way down, before the drop-down sees it.
onMounted(() => document.addEventListener("keydown", closeOnEscape, true));
onBeforeUnmount(() => document.removeEventListener("keydown", closeOnEscape, true));
</script>

<template>
  <router-view />
</template>
