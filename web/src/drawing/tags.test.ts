import { expect, it } from "vitest";
import { tags } from "./tags";

it("puts a tag near the beginning of its line, and further along where another lies", () => {
  const run = (y: number) => ({ from: [0, y], to: [100, y] }) as never;
  // The second line lies 5 below the first: its tag of 18 goes past the first one's.
  expect(tags([run(0), run(5), run(60)], 18)).toEqual([
    [14, 0],
    [34, 5],
    [14, 60],
  ]);
});

it("lies over another where its whole line is taken, and copes with a line of no length", () => {
  const short = { from: [0, 0], to: [0, 20] } as never;
  expect(tags([short, short], 18)).toEqual([
    [0, 14],
    [0, 14],
  ]);
  expect(tags([{ from: [3, 4], to: [3, 4] } as never], 18)).toEqual([[3, 4]]);
});
