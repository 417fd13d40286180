/** A place in a photo, pixels from its top left. */
export interface Spot {
  readonly x: number;
  readonly y: number;
}

/**
 * Where the corners of a picture stand in a photo of w × h pixels before anybody has set them by hand: in its middle.
 *
 * @example startCorners(400, 300, 1)[0]; // => { x: 110, y: 60 }
 */
export function startCorners(w: number, h: number, aspect: number): Spot[] {
  const tall = Math.min(0.6 * h, (0.6 * w) / aspect);
  const wide = tall * aspect;
  const [x, y] = [(w - wide) / 2, (h - tall) / 2];
  return [
    { x, y },
    { x: x + wide, y },
    { x: x + wide, y: y + tall },
    { x, y: y + tall },
  ];
}
