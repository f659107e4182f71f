/** What sheets cost, and how many of them have no price: those the sum leaves out. */
export function costs({ cost, unpriced = 0 }: { cost: number; unpriced?: number }): string {
  const none = `${unpriced} ${unpriced === 1 ? "sheet has" : "sheets have"} no price`;
  if (!unpriced) return cost.toFixed(0);
  return cost ? `${cost.toFixed(0)}, ${none}` : `not known: ${none}`;
}
