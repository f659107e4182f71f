import { ref } from "vue";
import { api } from "@/api/client";
import type { Figure } from "@/api/types";

/** Two places of a drawing, and how far they lie apart: the core works that out. */
export function useMeasure() {
  const on = ref(false);
  const points = ref<[number, number][]>([]);
  const found = ref<{ distance: Figure; right: Figure; up: Figure } | null>(null);
  function clear() {
    points.value = [];
    found.value = null;
  }
  function toggle() {
    on.value = !on.value;
    clear();
  }
  async function tap(at: [number, number]) {
    if (points.value.length === 2) clear();
    points.value = [...points.value, at];
    const [from, to] = points.value;
    if (!from || !to) return;
    const answer = await api.between(from, to);
    // Another tap meanwhile asks for something else.
    if (points.value[0] === from && points.value[1] === to) found.value = answer;
  }
  return { on, points, found, toggle, tap, clear };
}
