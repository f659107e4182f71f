import { watch } from "vue";
import { useProject } from "@/store/project";

/**
 * A field whose text may differ from what is stored. `restore` puts the stored value back; it runs on Escape, and
 * after undo and redo. Escape that had nothing to put back leaves the field or the dialog as usual.
 */
export function useStored(restore: () => void, differs: () => boolean) {
  const store = useProject();
  watch(
    () => store.rewound,
    () => restore(),
  );
  return function escape(event: KeyboardEvent) {
    if (!differs()) return;
    event.stopPropagation();
    event.preventDefault();
    restore();
  };
}
