import { describe, expect, it } from 'vitest';
import { ProblemError } from '../outcome/index.ts';
import { write } from '../say/index.ts';
import { placeDrawing, safeDrawing, type VectorPath, vectorsOf } from './index.ts';

const svg = (inside: string, root = 'viewBox="0 0 200 100" width="200" height="100"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${root}>${inside}</svg>`;
const outlines = (text: string) => {
  const drawing = safeDrawing(text);
  if (!drawing.ok) throw new ProblemError(drawing.problem);
  return vectorsOf(drawing.value);
};
const paths = (text: string): readonly VectorPath[] => {
  const found = outlines(text);
  if (!found.ok) throw new ProblemError(found.problem);
  return found.value.paths;
};

describe('the outlines of a drawing', () => {
  it('are measured with its width as 1', () => {
    const [hull] = paths(svg('<path d="M20 40h100l-20 30z" fill="#204060"/>'));
    expect(hull.steps.map(s => s[0]).join('')).toBe('MLLZ');
    expect(hull.steps[1][1]).toBeCloseTo(0.6, 9);
    expect(hull.steps[2][2]).toBeCloseTo(0.35, 9);
    expect(hull.fill![2]).toBeCloseTo(0x60 / 255, 9);
    expect(hull.stroke).toBeUndefined();
  });

  it('follow groups, transforms and style, the inner one first', () => {
    const [line] = paths(
      svg(
        '<g transform="translate(50 0)" stroke="black" style="fill: none"><line x1="0" y1="0" x2="10" y2="0" transform="scale(2)" stroke-width="3" stroke-linecap="round"/></g>',
      ),
    );
    expect(line.steps[1][1]).toBeCloseTo((50 + 20) / 200, 9);
    expect(line.stroke).toMatchObject({ cap: 'round', join: 'miter' });
    expect(line.stroke!.width).toBeCloseTo(6 / 200, 9);
    expect(line.fill).toBeUndefined();
  });

  it('start where the view box starts', () => {
    const [dot] = paths(svg('<rect x="-10" y="-5" width="4" height="4"/>', 'viewBox="-10 -5 40 20"'));
    expect(dot.steps[0]).toEqual(['M', 0, 0]);
    expect(dot.steps[1][1]).toBeCloseTo(0.1, 9);
  });

  it.each([
    ['a circle', '<circle cx="50" cy="50" r="20"/>', [30, 30, 70, 70]],
    ['an ellipse', '<ellipse cx="50" cy="50" rx="20" ry="10"/>', [30, 40, 70, 60]],
    ['a rounded box', '<rect x="10" y="20" width="60" height="30" rx="8"/>', [10, 20, 70, 50]],
    ['a polygon', '<polygon points="10,20 70,20 40,50"/>', [10, 20, 70, 50]],
    ['a quadratic curve', '<path d="M10 50Q40 -10 70 50T130 50"/>', [10, 20, 130, 80]],
  ])('of %s reach as far as it does', (_, inside, [x0, y0, x1, y1]) => {
    const [shape] = paths(svg(inside, 'width="200" height="100"'));
    const points = along(shape);
    const xs = points.map(p => p[0] * 200);
    const ys = points.map(p => p[1] * 200);
    for (const [got, want] of [
      [Math.min(...xs), x0],
      [Math.min(...ys), y0],
      [Math.max(...xs), x1],
      [Math.max(...ys), y1],
    ])
      expect(Math.abs(got - want)).toBeLessThan(0.06);
  });

  it('leave out what is not seen', () => {
    expect(
      paths(
        svg(
          '<defs><rect width="9" height="9"/></defs><title>Tern</title><rect width="9" height="9" display="none"/><rect width="0" height="9"/><path d="M0 0h1" fill="none"/>',
        ),
      ),
    ).toHaveLength(0);
  });

  it.each([
    ['writing', '<text x="1" y="9">TERN</text>', /writing in a font/],
    ['shading', '<rect width="9" height="9" fill="url(#g)"/>', /shading or a pattern/],
    ['see-through parts', '<rect width="9" height="9" opacity="0.5"/>', /see-through/],
    ['see-through ink', '<rect width="9" height="9" fill="#0008"/>', /see-through/],
    ['thin ink', '<rect width="9" height="9" fill-opacity=".5"/>', /see-through/],
    ['dashes', '<path d="M0 0h9" stroke="red" stroke-dasharray="2 1"/>', /dashed/],
    ['clipping', '<g clip-path="url(#c)"><rect width="9" height="9"/></g>', /clip-path/],
    ['a style sheet', '<style>rect{fill:red}</style>', /style sheet/],
    ['parts used again', '<g id="a"/><use href="#a"/>', /“use”/],
    ['an inner drawing', '<svg width="9"/>', /inside the drawing/],
    ['odd lengths', '<rect width="50%" height="9"/>', /length of “50%”/],
    [
      'lines stretched one way',
      '<path d="M0 0h9" stroke="red" transform="scale(1 3)"/>',
      /stretched one way/,
    ],
    ['a damaged outline', '<path d="M0 0 Lq"/>', /damaged outline/],
  ])('are not made where there is %s, and it says so', (_, inside, words) => {
    const found = outlines(svg(inside));
    expect(write(found.ok ? '' : found.problem.say)).toMatch(words);
  });

  it('are not made of a drawing that does not fill its page', () => {
    const found = outlines(
      svg('<rect width="9" height="9"/>', 'viewBox="0 0 10 10" width="200" height="100"'),
    );
    expect(write(found.ok ? '' : found.problem.say)).toMatch(/does not fill its page/);
  });

  it('are placed in mm, cut to the part that is printed, and mirrored', () => {
    const found = outlines(
      svg('<path d="M100 50C100 50 150 50 200 100" stroke="#000" fill="none" stroke-width="2"/>'),
    );
    if (!found.ok) throw new Error();
    const size = { w: 50, h: 50, part: { x: 0.5, y: 0, w: 0.5, h: 1 } };
    const [plain] = placeDrawing(found.value, size, false);
    expect(plain.steps[0]).toEqual(['M', 0, 25]);
    expect(plain.steps[1].slice(5)).toEqual([50, 50]);
    expect(plain.stroke!.width).toBeCloseTo(1, 9);
    const [turned] = placeDrawing(found.value, size, true);
    expect(turned.steps[0]).toEqual(['M', 50, 25]);
  });
});

/** Points along an outline, curves followed in steps. */
function along(path: VectorPath): [number, number][] {
  const points: [number, number][] = [];
  for (const step of path.steps) {
    if (step[0] === 'Z') continue;
    const [x, y] = points.at(-1) ?? [0, 0];
    if (step[0] !== 'C') points.push([step[1], step[2]]);
    else
      for (let i = 1; i <= 20; i++) {
        const t = i / 20;
        const mix = (a: number, b: number, c: number, d: number) =>
          (1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t * t * c + t ** 3 * d;
        points.push([mix(x, step[1], step[3], step[5]), mix(y, step[2], step[4], step[6])]);
      }
  }
  return points;
}
