/** Between a response and the scale it is drawn on. */
export interface LinkFunction {
  to(value: number): number;
  from(drawn: number): number;
}

/**
 * The logit of its share of a scale with ends; a response without ends as it is. The ends themselves lie half a hundredth
 * inside.
 */
export function linkOf(bounds: readonly [number, number] | undefined): LinkFunction {
  if (!bounds) return { to: v => v, from: v => v };
  const [low, high] = bounds;
  return {
    to: v => {
      const share = Math.min(1, Math.max(0, (v - low) / (high - low))) * 0.99 + 0.005;
      return Math.log(share / (1 - share));
    },
    from: x => {
      const share = (1 / (1 + Math.exp(-x)) - 0.005) / 0.99;
      return low + (high - low) * Math.min(1, Math.max(0, share));
    },
  };
}
