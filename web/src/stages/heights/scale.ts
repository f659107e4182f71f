import { computed, type ComputedRef, type Ref } from "vue";

/** Where things lie in the drawing of the ladder: millimetres above the floor to points of the screen. */
export interface Scale {
  /** Room above the roof for words. */
  top: number;
  narrow: boolean;
  width: number;
  height: number;
  floorY: number;
  left: number;
  right: number;
  /** Height of the roof, mm. */
  roof: number;
  /** Points a millimetre. */
  s: number;
  Y: (mm: number) => number;
}

/** The scale for a drawing so wide and a roof so high. */
export function useScale(width: Ref<number>, roof: () => number): ComputedRef<Scale> {
  return computed(() => {
    const top = 30;
    const narrow = width.value < 560;
    const height = narrow ? 440 : 560;
    const floorY = height - 34;
    const s = (floorY - top) / roof();
    return {
      top,
      narrow,
      width: width.value,
      height,
      floorY,
      left: 62,
      right: width.value - (narrow ? 110 : 236),
      roof: roof(),
      s,
      Y: (mm: number) => floorY - mm * s,
    };
  });
}
