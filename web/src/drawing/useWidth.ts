import { onBeforeUnmount, onMounted, ref, type Ref } from "vue";

/** The width of an element in pixels, as it changes; `first` until it is known. */
export function useWidth(box: Ref<HTMLElement | null>, first: number) {
  const width = ref(first);
  let watcher: ResizeObserver | null = null;
  onMounted(() => {
    watcher = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 40) width.value = entry.contentRect.width;
    });
    if (box.value) watcher.observe(box.value);
  });
  onBeforeUnmount(() => watcher?.disconnect());
  return width;
}
