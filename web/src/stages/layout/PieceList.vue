<script setup lang="ts">
import { computed, onMounted, ref } from "vue";
import { api, Refused } from "@/api/client";
import type { KindView } from "@/api/types";
import { useProject } from "@/store/project";
import { escapePointer } from "@/units/text";

/** All pieces of furniture, to be picked; and another one, by what one wants it for. */
defineProps<{ picked: string }>();
const emit = defineEmits<{ pick: [string] }>();
const store = useProject();
const kinds = ref<KindView[]>([]);
const adding = ref(false);
const busy = ref(false);

const pieces = computed(() =>
  (store.shown?.modules ?? []).map((m) => {
    const own = (store.shown?.findings ?? []).filter(
      (f) => f.subject.split(/[./]/).includes(m.id) && f.level !== "fine",
    );
    const worst = own.some((f) => f.level === "stop") ? "stop" : own.length ? "look" : "";
    return { ...m, worst };
  }),
);
onMounted(async () => {
  kinds.value = await api.kinds().catch(() => []);
});

async function add(kind: string) {
  if (busy.value) return;
  busy.value = true;
  try {
    const found = await api.suggest(store.id, kind);
    const path = `/modules/${escapePointer(found.id)}`;
    if (await store.change([{ op: "add", path, value: found.module }])) {
      adding.value = false;
      emit("pick", found.id);
    }
  } catch (e) {
    if (!(e instanceof Refused)) throw e;
    store.failed = e.problem;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <h3>Pieces</h3>
  <ul class="pieces">
    <li v-for="m in pieces" :key="m.id">
      <button
        type="button"
        class="plain piece"
        :class="{ here: m.id === picked }"
        :aria-pressed="m.id === picked"
        @click="emit('pick', m.id)"
      >
        {{ m.name }}
        <small v-if="m.boards === 0">waits for numbers</small>
        <small v-else-if="m.worst" :class="m.worst">{{ m.worst }}</small>
      </button>
    </li>
  </ul>
  <button type="button" class="plain link" aria-haspopup="dialog" @click="adding = true">
    Something …
  </button>
  <el-dialog
    v-model="adding"
    title="Another piece of furniture"
    width="min(720px, 94vw)"
    append-to-body
  >
    <ul class="kinds">
      <li v-for="k in kinds" :key="k.kind">
        <button type="button" class="plain link" :disabled="busy" @click="add(k.kind)">
          {{ k.purpose }}
        </button>
      </li>
    </ul>
  </el-dialog>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 4px 0;
  padding: 0;
}
.piece {
  width: 100%;
  min-height: 30px;
  padding: 3px 8px;
  text-align: left;
  font-weight: 600;
}
.piece.here {
  background: var(--ink);
  color: var(--on-ink);
}
small {
  font-weight: 400;
  margin-left: 6px;
}
.stop {
  color: var(--stop);
  font-weight: 700;
}
.look {
  color: var(--look);
  font-weight: 700;
}
.here .stop,
.here .look {
  color: inherit;
}
.kinds {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 4px 16px;
}
.link {
  text-decoration: underline;
  padding: 5px 8px;
  text-align: left;
}
@media (pointer: coarse) {
  .piece,
  .link {
    min-height: var(--touch);
  }
}
</style>
