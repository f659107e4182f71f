import { beforeEach, describe, expect, it } from "vitest";
import type { Handle } from "@/api/types";
import { usePull } from "./usePull";

const handle: Handle = {
  pointer: "/modules/b/choices/width",
  label: "Width",
  value: 900,
  axis: 0,
  at: [1200, 0, 200],
  per: 1,
  catches: [
    { value: 1000, what: "rib" },
    { value: 700, what: "frame of the deck" },
    { value: 1010, what: "upright of the bench" },
  ],
};
let tried: number[];
let chosen: number[];
let scale = 0.5;
let pull: ReturnType<typeof usePull>;

/** A pointer at so many pixels; half a pixel is a mm. */
const at = (x: number) =>
  ({ clientX: x, clientY: 0, pointerId: 1, currentTarget: {} }) as unknown as PointerEvent;
const pressed = (key: string) => ({ key, preventDefault: () => {} }) as unknown as KeyboardEvent;

beforeEach(() => {
  scale = 0.5;
  tried = [];
  chosen = [];
  pull = usePull({
    scale: () => scale,
    step: () => 1,
    preview: async (_, value) => {
      tried.push(value);
      return true;
    },
    choose: (_, value) => chosen.push(value),
    leave: () => {},
  });
});

describe("pulling at a handle", () => {
  it("catches at what holds within eight pixels, at the nearest of two", async () => {
    pull.grab(handle, at(0));
    pull.drag(at(45), { x: 1, y: 0 });
    expect(pull.pulled.value).toMatchObject({ value: 1000, caught: "rib" });
    // The drawing finds it among its own.
    expect(pull.pulled.value?.handle).toBe(handle);
    pull.drag(at(54), { x: 1, y: 0 });
    expect(pull.pulled.value).toMatchObject({ value: 1010, caught: "upright of the bench" });
    // Nine pixels off it is let go, and with Alt at once.
    pull.drag(at(64), { x: 1, y: 0 });
    expect(pull.pulled.value).toMatchObject({ value: 1028, caught: "" });
    pull.drag({ ...at(53), altKey: true } as PointerEvent, { x: 1, y: 0 });
    expect(pull.pulled.value).toMatchObject({ value: 1006, caught: "" });
    pull.drag(at(50), { x: 1, y: 0 });
    await pull.drop();
    expect(tried).toEqual([1000, 1010, 1028, 1006, 1000]);
    expect(chosen).toEqual([1000]);
  });

  it("catches within twelve millimetres where the drawing is small", () => {
    scale = 0.1;
    pull.grab(handle, at(0));
    pull.drag(at(8.7), { x: 1, y: 0 });
    expect(pull.pulled.value).toMatchObject({ value: 987, caught: "" });
    pull.drag(at(8.9), { x: 1, y: 0 });
    expect(pull.pulled.value).toMatchObject({ value: 1000, caught: "rib" });
  });

  it("goes to what holds next with the page keys, and no further than there is something", () => {
    pull.key(handle, pressed("PageUp"));
    pull.key(handle, pressed("PageDown"));
    pull.key({ ...handle, catches: [] }, pressed("PageUp"));
    expect(chosen).toEqual([1000, 700]);
  });

  it("goes on in steps with the arrows", () => {
    pull.key(handle, pressed("ArrowRight"));
    expect(chosen).toEqual([901]);
  });
});
