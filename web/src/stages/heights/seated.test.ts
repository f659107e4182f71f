import { expect, it } from "vitest";
import { seated } from "./seated";

it("sits on the seat and reaches the crown, whatever the proportions", () => {
  const s = seated(10, 500, 200, 300);
  expect(s.head.cy - s.head.ry).toBeCloseTo(300);
  expect(s.body).toContain("500");
  expect(s.beside).toBeGreaterThan(s.head.cx + s.head.rx);
});
