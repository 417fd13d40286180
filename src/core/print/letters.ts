import { type Shape, stroke } from './scene.ts';

/** Our own plotter lettering: strokes on a grid 4 wide and 6 high, `xy` pairs, pen up at a blank. */
const GLYPHS: Record<string, string> = {
  A: '0620 2046 1434',
  B: '0006 0030 3041 4142 4233 0333 3344 4445 4536 3606',
  C: '4010 1001 0105 0516 1646',
  D: '0006 0030 3041 4145 4536 3606',
  E: '4000 0006 0646 0333',
  F: '4000 0006 0333',
  G: '4010 1001 0105 0516 1646 4643 4323',
  H: '0006 4046 0343',
  I: '2026',
  J: '4045 4536 3616 1605',
  K: '0006 4003 0346',
  L: '0006 0646',
  M: '0600 0023 2340 4046',
  N: '0600 0046 4640',
  O: '1030 3041 4145 4536 3616 1605 0501 0110',
  P: '0006 0030 3041 4142 4233 3303',
  Q: '1030 3041 4145 4536 3616 1605 0501 0110 2446',
  R: '0006 0030 3041 4142 4233 3303 2346',
  S: '4010 1001 0102 0213 1333 3344 4445 4536 3606',
  T: '0040 2026',
  U: '0005 0516 1636 3645 4540',
  V: '0026 2640',
  W: '0016 1622 2236 3640',
  X: '0046 4006',
  Y: '0023 4023 2326',
  Z: '0040 4006 0646',
  '0': '1030 3041 4145 4536 3616 1605 0501 0110 0541',
  '1': '0220 2026',
  '2': '0110 1030 3041 4142 4206 0646',
  '3': '0040 4023 2333 3344 4445 4536 3616 1605',
  '4': '3036 3004 0444',
  '5': '4000 0002 0232 3243 4345 4536 3606',
  '6': '3002 0205 0516 1636 3645 4544 4433 3303',
  '7': '0040 4016',
  '8': '1030 3041 4142 4233 3313 1302 0201 0110 1304 0405 0516 1636 3645 4544 4433',
  '9': '1636 3645 4541 4130 3010 1001 0102 0213 1343',
  '.': '1516',
  ',': '2516',
  '-': '1333',
  '/': '0640',
  '×': '1335 1533',
  ' ': '',
};

/** Letters as strokes; `x`,`y` is the top left, `height` the capital height, all in mm. */
export function lettering(
  text: string,
  x: number,
  y: number,
  height: number,
  grey = 0,
  weight = 0.14,
): Shape[] {
  const unit = height / 6;
  return [...text.toUpperCase()].flatMap((letter, i) => {
    const left = x + i * unit * 5.4;
    return (GLYPHS[letter] ?? '')
      .split(' ')
      .flatMap(segment =>
        segment.length === 4
          ? [
              stroke(
                [left + Number(segment[0]) * unit, y + Number(segment[1]) * unit],
                [left + Number(segment[2]) * unit, y + Number(segment[3]) * unit],
                height * weight,
                grey,
              ),
            ]
          : [],
      );
  });
}

/** How wide a line of lettering runs, mm. */
export const letteringWidth = (text: string, height: number): number => text.length * (height / 6) * 5.4;
