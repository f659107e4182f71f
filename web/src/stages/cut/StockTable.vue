<script setup lang="ts">
import { computed } from "vue";
import ChoiceField from "@/fields/ChoiceField.vue";
import LengthField from "@/fields/LengthField.vue";
import PlainField from "@/fields/PlainField.vue";
import { useProject } from "@/store/project";
import { escapePointer, freshId } from "@/units/text";

/** The sheets that can be had, and the saw. */
const store = useProject();
const stock = computed(() => Object.entries(store.project?.stock ?? {}));
const at = (id: string) => `/stock/${escapePointer(id)}`;
const MATERIALS = computed(() =>
  (store.shown?.materials ?? []).map((m) => [m.id, m.material.name] as const),
);
const GRAINS = [
  ["w", "along the width"],
  ["h", "along the height"],
  ["none", "none"],
] as const;

/** An inch, for the sheet that is sold as 96 x 48. */
const IN = 25.4;
function add() {
  const first = Object.values(store.project?.modules ?? {})[0];
  const chosen = (first?.choices ?? {}) as { material?: string; thickness?: number };
  const value = {
    material: chosen.material ?? "birch-ply",
    thickness: chosen.thickness ?? 15,
    ...(store.system === "in" ? { w: 96 * IN, h: 48 * IN } : { w: 2440, h: 1220 }),
    grain: "w",
  };
  void store.change([{ op: "add", path: `/stock/${freshId("s")}`, value }]);
}
</script>

<template>
  <section class="stock" aria-label="Stock and saw">
    <h3>Sheets you can get, and your saw</h3>
    <div class="row saw">
      <LengthField label="Kerf" pointer="/cutting/kerf" :value="store.project?.cutting?.kerf" />
      <LengthField
        label="Trimmed off every edge"
        pointer="/cutting/trim"
        :value="store.project?.cutting?.trim"
      />
    </div>
    <div v-for="[id, s] in stock" :key="id" class="row sheet">
      <ChoiceField
        label="Material"
        :pointer="`${at(id)}/material`"
        :value="s.material"
        :options="MATERIALS"
      />
      <PlainField label="Sold as" :pointer="`${at(id)}/name`" :value="s.name ?? ''" kind="text" />
      <LengthField
        label="Thickness as measured"
        :pointer="`${at(id)}/thickness`"
        :value="s.thickness"
      />
      <LengthField label="Width" :pointer="`${at(id)}/w`" :value="s.w" />
      <LengthField label="Height" :pointer="`${at(id)}/h`" :value="s.h" />
      <ChoiceField
        label="Grain"
        :pointer="`${at(id)}/grain`"
        :value="s.grain ?? 'w'"
        :options="GRAINS"
      />
      <PlainField
        label="How many"
        kind="number"
        :pointer="`${at(id)}/count`"
        :value="s.count"
        empty="any"
      />
      <PlainField
        label="Price"
        kind="number"
        :pointer="`${at(id)}/cost`"
        :value="s.cost"
        empty="?"
      />
      <el-button
        :aria-label="`Remove sheet ${s.thickness} mm`"
        @click="store.change([{ op: 'remove', path: at(id) }])"
      >
        Remove
      </el-button>
    </div>
    <p v-if="stock.length === 0" class="soft">
      Without an entry a usual sheet of 2440 × 1220 mm is assumed.
    </p>
    <el-button @click="add">Add a sheet</el-button>
  </section>
</template>

<style scoped>
.stock {
  border-top: 1.5px solid var(--hair-strong);
  margin-top: 16px;
  padding-top: 10px;
}
.saw,
.sheet {
  align-items: flex-start;
  margin: 6px 0;
}
.sheet > :deep(.field:has(.mono)) {
  width: 104px;
}
.sheet :deep(.el-button) {
  margin-top: 21px;
}
</style>
