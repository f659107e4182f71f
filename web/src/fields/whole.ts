import { nextTick } from "vue";

/**
 * What is stored came into a field that the hand is in already: all of it is selected, so that what is typed
 * next takes its place instead of being joined to it ("91" typed where 80 appears is not 8091).
 */
export async function selectWhole(box: HTMLInputElement | null) {
  await nextTick();
  if (box && document.activeElement === box) box.select();
}
