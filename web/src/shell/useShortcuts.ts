import { onBeforeUnmount, onMounted, ref } from "vue";
import { useRouter } from "vue-router";
import { STAGES } from "@/stages/stages";
import { useProject } from "@/store/project";
import { useView } from "@/store/view";

/** What the keys do; shown by `?`. */
export const SHORTCUTS = [
  ["t", "type a reading: to the tape bar"],
  ["Enter", "in the tape bar: take it and go to the next number"],
  ["Esc", "put a field back, then leave it; end a pull"],
  ["[ ]", "the stage before, the next stage"],
  ["0 – 9", "on Survey: type a reading, from anywhere on the page"],
  ["z", "undo"],
  ["Shift z", "redo"],
  ["u", "millimetres or inches"],
  ["d", "day or night"],
  ["↑ ↓", "on the deck of the ladder: 1 mm; with Shift from rung to rung"],
  ["?", "this list"],
] as const;

function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  );
}

/** Dialogs stay in the page when shut, out of sight. */
function dialogOpen(): boolean {
  return [...document.querySelectorAll<HTMLElement>("[role=dialog]")].some((d) =>
    d.checkVisibility(),
  );
}

/** Listens for the keys while a project is open. */
export function useShortcuts() {
  const open = ref(false);
  const router = useRouter();
  const store = useProject();
  const view = useView();

  function toggleSystem() {
    const inches = store.system === "in";
    void store.change([
      { op: "add", path: "/units/system", value: inches ? "mm" : "in" },
      { op: "add", path: "/units/tape", value: inches ? "mm" : "in" },
    ]);
  }

  function press(event: KeyboardEvent) {
    if (event.key === "Escape" && typing(event.target)) {
      (event.target as HTMLElement).blur();
      return;
    }
    const command = event.ctrlKey || event.metaKey;
    if (typing(event.target) || event.altKey) return;
    if (command && event.key.toLowerCase() !== "z") return;
    if (dialogOpen()) return;
    if (/^[0-9]$/.test(event.key)) {
      // A digit is a reading: it goes where readings are typed, and nowhere else.
      const entry = document.querySelector<HTMLInputElement>("#tape-entry");
      if (router.currentRoute.value.name !== "survey" || !entry) return;
      entry.focus();
      entry.setRangeText(event.key, entry.value.length, entry.value.length, "end");
      entry.dispatchEvent(new Event("input", { bubbles: true }));
    } else if (event.key === "[" || event.key === "]") {
      const here = STAGES.findIndex((s) => s.id === router.currentRoute.value.name);
      const stage = STAGES[here + (event.key === "]" ? 1 : -1)];
      if (stage) void router.push({ name: stage.id });
    } else if (event.key === "?") open.value = true;
    else if (event.key === "t") document.querySelector<HTMLInputElement>("#tape-entry")?.focus();
    else if (event.key.toLowerCase() === "z") void store.history(event.shiftKey ? "redo" : "undo");
    else if (event.key === "u") toggleSystem();
    else if (event.key === "d") view.night = !view.night;
    else return;
    event.preventDefault();
  }

  onMounted(() => window.addEventListener("keydown", press));
  onBeforeUnmount(() => window.removeEventListener("keydown", press));
  return { open, toggleSystem };
}
