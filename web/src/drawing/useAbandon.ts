import { onScopeDispose } from "vue";

/**
 * Escape ends what is pulled at, wherever the focus is: `abandon` puts everything back and says whether something was
 * pulled at.
 */
export function useAbandon(abandon: () => boolean) {
  function press(event: KeyboardEvent) {
    if (event.key !== "Escape" || !abandon()) return;
    event.stopPropagation();
    event.preventDefault();
  }
  window.addEventListener("keydown", press, { capture: true });
  onScopeDispose(() => window.removeEventListener("keydown", press, { capture: true }));
}
