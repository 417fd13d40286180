/** So little of a ground may shine and still hold: what a reading of a dull one comes to, %. */
const NEXT_TO_NONE = 1;

/**
 * Whether a ground is dull enough to be coated: no more of it shines than a reading may be off by. Any gloss left is a
 * place where nothing sticks (docs/HANDBOOK.md, quick-release peel).
 *
 * @example isDull({ gloss: 0.8, uncertainty: 0.5 }); // => true
 * @example isDull({ gloss: 4, uncertainty: 1 }); // => false
 */
export const isDull = ({
  gloss,
  uncertainty,
}: {
  readonly gloss: number;
  readonly uncertainty: number;
}): boolean => gloss <= Math.max(NEXT_TO_NONE, uncertainty);
