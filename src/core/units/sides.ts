/** Width and height, mm; a number stands for a square of that side. */
export type Sides = number | { readonly w: number; readonly h: number };

/**
 * Width and height of something that may be given as the side of a square.
 *
 * @example sidesOf(40).h; // => 40
 */
export const sidesOf = (sides: Sides): { readonly w: number; readonly h: number } =>
  typeof sides === 'number' ? { w: sides, h: sides } : sides;
