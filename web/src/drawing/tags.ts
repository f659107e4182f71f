/** A line on the screen: where it begins, and which way it runs. */
export interface Run {
  from: [number, number];
  to: [number, number];
}

/** From the beginning of a line to the middle of its tag, and from one place that is tried to the next, px. */
const OFF = 14;
const STEP = 5;

/**
 * Middles of tags of that side, one on each line near where it begins: further along where an earlier tag lies already, and
 * over it only where the whole line is taken.
 */
export function tags(runs: Run[], side: number): [number, number][] {
  const placed: [number, number][] = [];
  for (const { from, to } of runs) {
    const long = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const at = (off: number): [number, number] =>
      long === 0
        ? from
        : [from[0] + ((to[0] - from[0]) * off) / long, from[1] + ((to[1] - from[1]) * off) / long];
    const free = ([x, y]: [number, number]) =>
      placed.every((p) => Math.abs(p[0] - x) >= side || Math.abs(p[1] - y) >= side);
    let off = OFF;
    while (!free(at(off)) && off + STEP <= long) off += STEP;
    placed.push(free(at(off)) ? at(off) : at(OFF));
  }
  return placed;
}
