<script setup lang="ts">
import { api } from "@/api/client";
import { useProject } from "@/store/project";

/** How a laser distance meter is paired: it posts its messages to the project's own address. */
const open = defineModel<boolean>({ required: true });
const store = useProject();
const EXAMPLE = '{"device": "laser-1", "seq": 7, "kind": "reading", "mm": 1403.0}';
</script>

<template>
  <el-dialog v-model="open" title="Pair a meter" width="min(600px, 94vw)">
    <p>
      A laser distance meter, or the phone it talks to, posts each distance to this project’s own
      address. It lands in the tape bar, and is stored when you press Next. Nothing is asked of a
      meter, and nothing comes until one speaks.
    </p>
    <p class="mono address">POST {{ api.laserUrl(store.id) }}</p>
    <p class="mono">{{ EXAMPLE }}</p>
    <p class="soft">
      Content type application/json. <b>seq</b> counts up by one: a message that comes twice counts
      once. <b>hello</b> and <b>bye</b> in place of <b>reading</b> say that it is switched on or
      off.
    </p>
  </el-dialog>
</template>

<style scoped>
p {
  margin-bottom: 10px;
}
.mono {
  overflow-wrap: anywhere;
}
.address {
  font-weight: 700;
}
</style>
