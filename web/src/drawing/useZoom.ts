import { onBeforeUnmount, onMounted, ref, watch, type Ref } from "vue";
import { select } from "d3-selection";
import { zoom, zoomIdentity, type D3ZoomEvent } from "d3-zoom";

/** Closer than so many times nothing more is to be seen. */
const CLOSEST = 40;
/** A hand that moves by no more than this still taps, pixels. */
const STILL = 4;

/**
 * Zoom and pan of a drawing: by wheel about the pointer, by two fingers about the place between them, by one finger or
 * the mouse once it is zoomed. `k` times larger, moved by `x` and `y` pixels; never further out than all of it.
 */
export function useZoom(svg: Ref<SVGSVGElement | null>, size: () => [number, number]) {
  const k = ref(1);
  const x = ref(0);
  const y = ref(0);
  const zoomed = zoom<SVGSVGElement, unknown>()
    .scaleExtent([1, CLOSEST])
    .extent(() => [[0, 0], size()])
    .translateExtent([[0, 0], size()])
    .clickDistance(STILL)
    // One finger on the whole drawing scrolls the page, as beside it.
    .filter((e: MouseEvent | TouchEvent) =>
      "touches" in e ? e.touches.length > 1 || k.value > 1 : !e.button,
    )
    .on("zoom", (e: D3ZoomEvent<SVGSVGElement, unknown>) => {
      ({ k: k.value, x: x.value, y: y.value } = e.transform);
    });
  onMounted(() => {
    if (svg.value) select(svg.value).call(zoomed).on("dblclick.zoom", null);
  });
  onBeforeUnmount(() => {
    if (svg.value) select(svg.value).on(".zoom", null);
  });
  watch(size, (now) => zoomed.translateExtent([[0, 0], now]));
  const on = () => (svg.value ? select(svg.value) : null);
  const by = (factor: number) => on()?.call(zoomed.scaleBy, factor);
  const pan = (dx: number, dy: number) =>
    on()?.call(zoomed.translateBy, dx / k.value, dy / k.value);
  const home = () => on()?.call(zoomed.transform, zoomIdentity);
  const keys: Record<string, () => unknown> = {
    "+": () => by(1.25),
    "=": () => by(1.25),
    "-": () => by(0.8),
    "0": home,
    ArrowLeft: () => pan(40, 0),
    ArrowRight: () => pan(-40, 0),
    ArrowUp: () => pan(0, 40),
    ArrowDown: () => pan(0, -40),
  };
  /** Plus and minus, 0 for all of it, arrows. */
  function key(e: KeyboardEvent) {
    const own = keys[e.key];
    // On the whole drawing arrows move the page.
    if (!own || (e.key.startsWith("Arrow") && k.value === 1)) return;
    own();
    e.preventDefault();
    // Digits and arrows have another meaning on the rest of the page.
    e.stopPropagation();
  }
  return { k, x, y, by, home, key };
}
