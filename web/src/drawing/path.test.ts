import { expect, it } from "vitest";
import { linePath, regionPath } from "./path";

const id = (v: number) => v;
const flip = (v: number) => -v;

it("draws outline and holes as closed rings", () => {
  const region = {
    outer: [
      [0, 0],
      [4, 0],
      [4, 4],
    ],
    holes: [
      [
        [1, 1],
        [2, 1],
        [2, 2],
      ],
    ],
  };
  expect(regionPath(region, id, flip)).toBe("M0 0L4 0L4 -4ZM1 -1L2 -1L2 -2Z");
});

it("leaves a line open and an empty one out", () => {
  expect(linePath([[0, 1]], id, id)).toBe("M0 1");
  expect(linePath([], id, id)).toBe("");
});
