import { ref, watch, type Ref } from "vue";
import { draft as read, keepDraft } from "@/store/drafts";

/** A text that belongs to a key and is still there when that key comes back, after a reload too. */
export function useDraft(key: () => string): Ref<string> {
  const text = ref(read(key()));
  let mine = key();
  watch(text, (now) => keepDraft(mine, now), { flush: "sync" });
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
