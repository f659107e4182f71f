/** A person sitting up, facing right, drawn from two measured heights: the seat and the crown. */
export interface Seated {
  head: { cx: number; cy: number; rx: number; ry: number };
  body: string;
  /** Where words beside the head begin. */
  beside: number;
}

/** `x`: the back of the seat; `seat`: its height; `tall`: pixels from seat to crown; legs reach to
 * `reach` pixels at most. All proportions but seat and crown are by eye. */
export function seated(x: number, seat: number, tall: number, reach: number): Seated {
  const rx = tall * 0.088;
  const ry = tall * 0.118;
  const cx = x + tall * 0.14;
  const neck = seat - tall + 2 * ry;
  const legs = Math.max(Math.min(tall * 1.05, reach), tall * 0.5);
  const thigh = tall * 0.17;
  const hip = x + tall * 0.27;
  const body = [
    `M${cx - rx * 0.55} ${neck - ry * 0.25}`,
    `C${cx - rx * 0.6} ${neck + tall * 0.03} ${x + tall * 0.02} ${neck + tall * 0.02} ${x} ${neck + tall * 0.11}`,
    `C${x - tall * 0.05} ${seat - tall * 0.38} ${x - tall * 0.03} ${seat - tall * 0.12} ${x} ${seat}`,
    `L${x + legs} ${seat}`,
    `L${x + legs + tall * 0.015} ${seat - thigh * 0.95}`,
    `Q${x + legs - tall * 0.03} ${seat - thigh * 1.05} ${x + legs - tall * 0.045} ${seat - thigh * 0.45}`,
    `C${x + legs * 0.8} ${seat - thigh * 0.55} ${x + legs * 0.65} ${seat - thigh * 1.1} ${hip + tall * 0.05} ${seat - thigh}`,
    `C${hip} ${seat - tall * 0.3} ${x + tall * 0.27} ${neck + tall * 0.2} ${x + tall * 0.25} ${neck + tall * 0.1}`,
    `C${x + tall * 0.24} ${neck + tall * 0.02} ${cx + rx * 0.6} ${neck + tall * 0.03} ${cx + rx * 0.55} ${neck - ry * 0.25}`,
  ].join("");
  return { head: { cx, cy: seat - tall + ry, rx, ry }, body, beside: cx + rx + 12 };
}
