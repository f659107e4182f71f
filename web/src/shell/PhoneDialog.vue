<script setup lang="ts">
import { computed, ref, watch } from "vue";
import { api, Refused } from "@/api/client";
import type { LanState, Paired } from "@/api/types";

/** Lets a phone of the local network in by a picture to point it at, and puts it out again. */
const open = defineModel<boolean>({ required: true });
const lan = ref<LanState | null>(null);
const devices = ref<Paired[]>([]);
const error = ref("");

async function tell(work: () => Promise<void>) {
  error.value = "";
  try {
    await work();
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    error.value = e.problem.detail;
  }
}
const look = () =>
  tell(async () => {
    lan.value = await api.lan();
    devices.value = await api.devices();
  });
const invite = () =>
  tell(async () => {
    lan.value = await api.openLan();
  });
const shut = () =>
  tell(async () => {
    lan.value = await api.closeLan();
  });
const revoke = (id: string) =>
  tell(async () => {
    await api.revoke(id);
    devices.value = await api.devices();
  });
watch(open, (on) => on && void look());
const isOpen = computed(() => (lan.value?.addresses.length ?? 0) > 0);
/** An image of its own: the page's policy lets nothing else draw it. */
const picture = computed(() => {
  const svg = lan.value?.invitation?.picture;
  return svg ? `data:image/svg+xml;base64,${btoa(svg)}` : "";
});
</script>

<template>
  <el-dialog v-model="open" title="Let a phone in" width="min(560px, 94vw)">
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <template v-if="lan">
      <p>{{ lan.caution }}</p>
      <p v-if="lan.trouble" class="error">{{ lan.trouble }}</p>
      <div v-if="lan.invitation" class="invite">
        <img :src="picture" alt="Code for the phone’s camera" width="220" height="220" />
        <p>
          Point the phone’s camera here, or open this address on it:<br />
          <b class="mono">{{ lan.invitation.address }}</b><br />
          <span class="soft">Good for {{ lan.invitation.seconds }} seconds and one phone.</span>
        </p>
      </div>
      <p class="row">
        <el-button type="primary" @click="invite">{{
          isOpen ? "A code for another phone" : "Open to my network"
        }}</el-button>
        <el-button v-if="isOpen" @click="shut">Close to the network</el-button>
        <el-button @click="look">Look again</el-button>
      </p>
      <h3>Paired</h3>
      <p v-if="devices.length === 0" class="soft">No phone yet.</p>
      <p v-for="d in devices" :key="d.id" class="row spread">
        <span
          >{{ d.name }}
          <span class="soft">since {{ new Date(d.at).toLocaleDateString("en-GB") }}</span></span
        >
        <el-button size="small" :aria-label="`Put ${d.name} out`" @click="revoke(d.id)"
          >Put out</el-button
        >
      </p>
    </template>
  </el-dialog>
</template>

<style scoped>
.invite {
  display: flex;
  gap: 16px;
  align-items: center;
  flex-wrap: wrap;
}
.invite p {
  flex: 1 1 200px;
}
.invite img {
  background: #fff;
}
h3 {
  margin: 14px 0 6px;
}
.mono {
  overflow-wrap: anywhere;
}
</style>
