import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { type Cell, depthOf, gainOf, leftOf, USUAL_INK, underPaper } from './ink.ts';

type Three = readonly [number, number, number];
const OAK: Three = [0.48, 0.33, 0.18];
const TILE: Three = [0.9, 0.9, 0.9];

/** Solids on a ground as a print of this depth under this veil shows them; paper's veil is uneven by `uneven`. */
function solids(base: Three, depth: number, veil: number, uneven = 0.35, a = 0.99): Cell[] {
  const chance = chanceFrom(7);
  return Array.from({ length: 200 }, (_, at) => {
    const h = Math.max(0, veil * (1 + uneven * chance.normal()));
    const noise = 0.002 * chance.normal();
    const seen = base.map(b => (1 - h) * b * (1 - a * (1 - depth)) + h + noise);
    return { at, a: [a, a, a], cover: a, seen: seen as unknown as Three, base };
  });
}

describe('the depth of ink', () => {
  it('is told by colour on a ground that has one, thin ink from paper over it', () => {
    for (const depth of [0.02, 0.15, 0.3]) expect(depthOf(solids(OAK, depth, 0))).toBeCloseTo(depth, 1);
    for (const veil of [0.1, 0.3, 0.5]) expect(depthOf(solids(OAK, 0.02, veil))).toBeLessThan(0.075);
    expect(Math.abs(depthOf(solids(OAK, 0.2, 0.2)) - 0.2)).toBeLessThan(0.08);
  });

  it('is told on white by how even it is: ink is, paper is not', () => {
    expect(depthOf(solids(TILE, 0.2, 0))).toBeGreaterThan(0.15);
    expect(depthOf(solids(TILE, 0.02, 0.2, 0.4))).toBeLessThan(0.08);
  });

  it('is what is usual where too few solids can be seen', () => {
    expect(depthOf(solids(OAK, 0.3, 0).slice(0, 29))).toBe(USUAL_INK.depth);
  });
});

describe('ink over its ground', () => {
  it('lets all of the light through where there is none, and its depth through a solid', () => {
    expect(leftOf({ depth: 0.1, gain: 0.2 }, 0, 0)).toBe(1);
    expect(leftOf({ depth: 0.1, gain: 0.2 }, 1, 0)).toBeCloseTo(0.1, 12);
    // Half covered, grown by a tenth: 0.6 of it lets a tenth through.
    expect(leftOf({ depth: 0.1, gain: 0.1 }, 0.5, 1)).toBeCloseTo(0.4 + 0.06, 12);
  });

  it('has the veil over it that was laid on it', () => {
    const [cell] = solids(OAK, 0.05, 0.3, 0);
    const { h, off } = underPaper(cell, { depth: 0.05, gain: 0 });
    expect(h).toBeCloseTo(0.3, 1);
    for (const o of off) expect(Math.abs(o)).toBeLessThan(0.01);
  });

  it('has dots that have grown as much as its middle tones are darker', () => {
    const tones = [0.3, 0.5, 0.7].flatMap(a =>
      Array.from({ length: 40 }, (_, k): Cell => {
        const grown = a + 0.12 * 4 * a * (1 - a);
        const seen = OAK.map(b => (1 - 0.1) * b * (1 - grown * 0.95) + 0.1) as unknown as Three;
        return { at: k, a: [a, a, a], cover: a, seen, base: OAK };
      }),
    );
    const veil = new Float32Array(40).fill(0.1);
    expect(gainOf(tones, 0.05, veil)).toBeCloseTo((120 * 0.12 + 25 * 0.03) / 145, 2);
    expect(gainOf(tones.slice(0, 7), 0.05, veil)).toBe(USUAL_INK.gain);
  });
});
