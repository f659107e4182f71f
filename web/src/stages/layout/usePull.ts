import { shallowRef } from "vue";
import type { Handle } from "@/api/types";
import { useAbandon } from "@/drawing/useAbandon";

/** Within so many pixels of what holds it catches, but no further off than so many mm; with Alt it does not. */
const NEAR = 8;
const NEAR_MM = 12;

interface Hands {
  /** Pixels in a mm. */
  scale: () => number;
  /** The number goes in steps of so many mm. */
  step: () => number;
  /** Tries a number; false where it cannot be. */
  preview: (handle: Handle, value: number) => Promise<boolean>;
  choose: (handle: Handle, value: number) => void;
  /** Nothing is changed after all. */
  leave: () => void;
}

/** Pulling at a handle by pointer and by keys: previewed while it moves, chosen at the end; it catches at what holds. */
export function usePull(hands: Hands) {
  /** What is pulled at, its number meanwhile, and at what it caught. Shallow: the drawing looks for this very handle. */
  const pulled = shallowRef<{ handle: Handle; value: number; caught: string } | null>(null);
  let from = { x: 0, y: 0 };
  /** The last number that can be, once all that was tried is answered. */
  let good: Promise<number | null> = Promise.resolve(null);

  const rounded = (value: number) => {
    const step = hands.step();
    return Math.max(Math.round(value / step) * step, 0);
  };

  function grab(handle: Handle, event: PointerEvent) {
    from = { x: event.clientX, y: event.clientY };
    good = Promise.resolve(null);
    pulled.value = { handle, value: handle.value, caught: "" };
    (event.currentTarget as Element).setPointerCapture?.(event.pointerId);
  }

  /** `way` is where on the screen the handle's axis points. */
  function drag(event: PointerEvent, way: { x: number; y: number }) {
    const held = pulled.value;
    if (!held) return;
    const along = (event.clientX - from.x) * way.x + (event.clientY - from.y) * way.y;
    const { handle } = held;
    const there = handle.value + along / hands.scale() / handle.per;
    const off = (value: number) => Math.abs((value - there) * handle.per);
    const near = Math.min(NEAR / hands.scale(), NEAR_MM);
    const all = event.altKey ? [] : (handle.catches ?? []);
    const catches = all.filter((c) => off(c.value) <= near);
    const caught = catches.sort((a, b) => off(a.value) - off(b.value))[0];
    const value = caught?.value ?? rounded(there);
    if (value === held.value) return;
    pulled.value = { handle, value, caught: caught?.what ?? "" };
    const before = good;
    const tried = hands.preview(handle, value);
    good = tried.then(async (can) => (can ? value : before));
  }

  async function drop() {
    const held = pulled.value;
    pulled.value = null;
    if (!held) return;
    // Let go sooner than the plan answers, it still counts.
    const value = (await good) ?? held.handle.value;
    if (value === held.handle.value) hands.leave();
    else hands.choose(held.handle, value);
  }

  useAbandon(() => {
    if (!pulled.value) return false;
    pulled.value = null;
    good = Promise.resolve(null);
    hands.leave();
    return true;
  });

  /** One step; ten with Shift; with the page keys as far as what holds next. */
  function key(handle: Handle, event: KeyboardEvent) {
    const page = { PageUp: 1, PageDown: -1 }[event.key];
    if (page) {
      event.preventDefault();
      const ahead = (value: number) => (value - handle.value) * page * Math.sign(handle.per);
      const next = (handle.catches ?? []).filter((c) => ahead(c.value) > 0);
      const nearest = next.sort((a, b) => ahead(a.value) - ahead(b.value))[0];
      if (nearest) hands.choose(handle, nearest.value);
      return;
    }
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const steps = (event.shiftKey ? 10 : 1) * by;
    hands.choose(handle, rounded(handle.value + steps * hands.step()));
  }

  return { pulled, grab, drag, drop, key };
}
