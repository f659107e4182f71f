import type { Ladder } from "@/api/types";
import { useAbandon } from "@/drawing/useAbandon";

/** Rungs closer than this to the pointer catch the deck, in pixels. */
const SNAP = 5;

interface Hands {
  ladder: () => Ladder;
  /** Height in mm at a place on the screen. */
  heightAt: (clientY: number) => number;
  /** Pixels in a mm. */
  scale: () => number;
  /** Heights go in steps of so many mm. */
  step: () => number;
  preview: (underside: number) => void;
  /** Nothing is changed after all. */
  leave: () => void;
  choose: (underside: number) => void;
}

/** Moving the deck by pointer and by arrow keys: previewed while it moves, chosen at the end. */
export function useDeckDrag(hands: Hands) {
  let dragging = false;
  let last = Number.NaN;

  const rounded = (mm: number) => Math.round(mm / hands.step()) * hands.step();

  function wanted(event: PointerEvent): number {
    const mm = rounded(hands.heightAt(event.clientY));
    const { rungs, floor_to_roof } = hands.ladder();
    const near = rungs.find((r) => Math.abs(r.underside.value - mm) * hands.scale() < SNAP);
    const height = near ? near.underside.value : mm;
    return Math.min(
      Math.max(height, 0),
      Math.floor(floor_to_roof.value / hands.step()) * hands.step(),
    );
  }

  function grab(event: PointerEvent) {
    dragging = true;
    (event.currentTarget as Element).setPointerCapture?.(event.pointerId);
  }
  function drag(event: PointerEvent) {
    if (!dragging) return;
    const next = wanted(event);
    if (next !== last) hands.preview((last = next));
  }
  function drop(event: PointerEvent) {
    if (!dragging) return;
    dragging = false;
    last = Number.NaN;
    hands.choose(wanted(event));
  }

  useAbandon(() => {
    if (!dragging) return false;
    dragging = false;
    last = Number.NaN;
    hands.leave();
    return true;
  });

  /** One mark of the tape, or with Shift to the next rung. */
  function key(event: KeyboardEvent) {
    const { rungs, chosen, floor_to_roof } = hands.ladder();
    const now = chosen?.underside.value;
    if (now === undefined || !["ArrowUp", "ArrowDown"].includes(event.key)) return;
    event.preventDefault();
    const up = event.key === "ArrowUp";
    const heights = rungs.map((r) => r.underside.value);
    const next = !event.shiftKey
      ? rounded(now) + (up ? hands.step() : -hands.step())
      : up
        ? heights.find((u) => u > now + 0.5)
        : heights.findLast((u) => u < now - 0.5);
    if (next !== undefined && next >= 0 && next < floor_to_roof.value) hands.choose(next);
  }

  return { grab, drag, drop, key };
}
