import { describe, expect, it } from "vitest";
import { both, escapePointer, freshId, readOut, say, show } from "./text";

const figure = { value: 588.9625, mm: "589", inch: "23 3/16" };

describe("figures in words", () => {
  it("speaks the project's system and shows the other where asked", () => {
    expect(say(figure, "mm")).toBe("589");
    expect(say(figure, "mm", true)).toBe("589 mm");
    expect(say(figure, "in", true)).toBe("23 3/16 in");
    expect(both(figure, "in")).toBe("23 3/16″ · 589 mm");
    expect(say(null, "mm")).toBe("");
  });

  it("reads a typed entry out in both systems, with what is over the mark", () => {
    expect(readOut({ mm: 54.6, in: 2.15, nearest: "2 1/8", off_mm: 0.625 })).toBe(
      "= 54.6 mm   2 1/8″ +0.6",
    );
    expect(readOut({ mm: 25.4, in: 1, nearest: "1", off_mm: 0 })).toBe("= 25.4 mm   1″");
    expect(readOut({ mm: 53, in: 2.08, nearest: "2 1/16", off_mm: -1.2 })).toContain("−1.2");
    expect(readOut(null)).toBe("");
  });

  it("shows a tenth at the finest and no thousands mark", () => {
    expect(show(2030)).toBe("2030");
    expect(show(0.05)).toBe("0.1");
  });
});

describe("keys", () => {
  it("escapes a JSON Pointer as RFC 6901 says", () => {
    expect(escapePointer("a/b~c")).toBe("a~1b~0c");
  });

  it("makes identifiers that differ", () => {
    const some = new Set(Array.from({ length: 200 }, () => freshId("r")));
    expect(some.size).toBe(200);
  });
});
