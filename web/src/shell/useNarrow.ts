import { onBeforeUnmount, ref } from "vue";

/** True on a phone held upright. */
export function useNarrow() {
  const query = window.matchMedia("(max-width: 720px)");
  const narrow = ref(query.matches);
  const listen = () => (narrow.value = query.matches);
  query.addEventListener("change", listen);
  onBeforeUnmount(() => query.removeEventListener("change", listen));
  return narrow;
}
