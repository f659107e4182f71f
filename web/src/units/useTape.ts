import { ref, watch, type Ref } from "vue";
import { api, Refused, type Tape } from "@/api/client";
import { useProject } from "@/store/project";

/** What a typed entry means, from the server's tape language; the newest answer wins. */
export function useTape(entry: Ref<string>, unit?: Ref<string | undefined>) {
  const store = useProject();
  const result = ref<Tape | null>(null);
  const pending = ref(false);
  let asked = 0;
  /** What is being read. */
  let reading = "";

  async function read(): Promise<Tape | null> {
    const mine = ++asked;
    reading = entry.value;
    const units = store.project?.units;
    pending.value = true;
    try {
      const answer = await api.tape(
        [entry.value],
        unit?.value ?? units?.tape ?? "mm",
        units?.denominator ?? 16,
      );
      const first = answer.results[0] ?? null;
      if (mine === asked) result.value = first;
      return first;
    } catch (e) {
      if (!(e instanceof Refused)) throw e;
      const told: Tape = { error: e.problem };
      if (mine === asked) result.value = told;
      return told;
    } finally {
      if (mine === asked) pending.value = false;
    }
  }

  watch(
    entry,
    (text) => {
      if (pending.value && text === reading) return;
      if (text.trim()) void read();
      else {
        asked++;
        result.value = null;
      }
    },
    { immediate: true },
  );
  return { result, pending, read };
}
