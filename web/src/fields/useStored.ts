import { ref, watch } from "vue";
import { refusal, Refused } from "@/api/client";
import { useProject } from "@/store/project";

/**
 * A field of the document whose text may differ from what is stored. `restore` puts the stored value back; it runs on
 * Escape, and after undo and redo. Escape that had nothing to put back leaves the field or the dialog as usual.
 */
export function useStored(pointer: () => string, restore: () => void, differs: () => boolean) {
  const store = useProject();
  /** Why what was typed is not stored. */
  const error = ref("");
  /** It is on its way: a dialog that opens takes the focus, and leaving a field commits it too, so once at a time. */
  const committing = ref(false);
  watch(
    () => store.rewound,
    () => restore(),
  );

  function escape(event: KeyboardEvent) {
    if (!differs() && !error.value) return;
    event.stopPropagation();
    event.preventDefault();
    restore();
  }

  /** Stores a value; false where it is refused, and `error` says why. */
  async function put(value: unknown): Promise<boolean> {
    try {
      await store.put(pointer(), value);
      error.value = "";
      return true;
    } catch (e) {
      if (!(e instanceof Refused)) throw e;
      error.value = refusal(e.problem);
      return false;
    }
  }

  async function once(work: () => Promise<void>) {
    if (committing.value) return;
    committing.value = true;
    try {
      await work();
    } finally {
      committing.value = false;
    }
  }

  return { error, committing, escape, put, once };
}
