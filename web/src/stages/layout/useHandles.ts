import { shallowRef, watch } from "vue";
import { api, Refused } from "@/api/client";
import type { Handle, Operation, Plan } from "@/api/types";
import { useProject } from "@/store/project";
import { usePull } from "./usePull";

/** What answers while a handle is pulled. */
const ANSWERS: (keyof Plan)[] = [
  ...(["stages", "ladder", "decks", "modules", "views"] as const),
  ...(["evening", "findings", "holds", "out"] as const),
];

/** Handles of the picked piece, asked for again after every edit, and the pulling at them. */
export function useHandles(picked: () => string, scale: () => number) {
  const store = useProject();
  const handles = shallowRef<Handle[]>([]);
  let stop: AbortController | null = null;

  watch(
    [picked, () => store.revision],
    async ([piece], was) => {
      stop?.abort();
      if (piece !== was[0]) handles.value = [];
      if (!piece) return;
      const mine = (stop = new AbortController());
      try {
        const found = await api.handles(store.id, piece, mine.signal);
        if (stop === mine) handles.value = found;
      } catch (e) {
        // Without handles everything can still be typed.
        if (!(e instanceof Refused) && !mine.signal.aborted) throw e;
      }
    },
    { immediate: true },
  );

  const patch = (handle: Handle, value: number): Operation[] => [
    { op: "add", path: handle.pointer, value },
  ];
  const pull = usePull({
    scale,
    step: () => (store.system === "in" ? 25.4 / 16 : 1),
    preview: (handle, value) => store.preview(patch(handle, value), ANSWERS),
    choose: (handle, value) => void store.change(patch(handle, value)),
    leave: () => void store.preview(null),
  });
  return { handles, pull };
}
