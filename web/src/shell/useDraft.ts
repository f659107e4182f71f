import { ref, watch, type Ref } from "vue";

const shelf = (key: string) => `jigfit.entry.${key}`;
const read = (key: string) => localStorage.getItem(shelf(key)) ?? "";

/** A text that belongs to a key and is still there when that key comes back, after a reload too. */
export function useDraft(key: () => string): Ref<string> {
  const text = ref(read(key()));
  let mine = key();
  watch(
    text,
    (now) => {
      if (now) localStorage.setItem(shelf(mine), now);
      else localStorage.removeItem(shelf(mine));
    },
    { flush: "sync" },
  );
  watch(
    key,
    (next) => {
      if (next === mine) return;
      mine = next;
      text.value = read(next);
    },
    { flush: "sync" },
  );
  return text;
}
