import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { type Told, withSpecks } from './specks.ts';

const [W, H] = [40, 30];
const COUNT = W * H;
const at = (x: number, y: number) => y * W + x;

/** A picture all inked and seen, with shares as given and nothing bare by its neighbours. */
const told = (shares: (x: number, y: number) => number, part: Partial<Told> = {}): Told => ({
  w: W,
  h: H,
  counted: new Uint8Array(COUNT).fill(1),
  bare: new Uint8Array(COUNT),
  steep: new Uint8Array(COUNT),
  share: i => shares(i % W, Math.floor(i / W)),
  scatter: () => 0.02,
  ...part,
});
const sum = (of: ArrayLike<number>) => Array.from(of).reduce((a, b) => a + b, 0);

describe('a speck of a few pixels', () => {
  // A disc of radius 1.2 px blurred by a camera: its light is kept, its peak is not.
  const blurred = (cx: number, cy: number, area: number, sigma: number) => (x: number, y: number) =>
    (area / (2 * Math.PI * sigma ** 2)) * Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / (2 * sigma ** 2));

  it('counts with what it lost, however its blur has spread it', () => {
    for (const [area, sigma] of [
      [4, 0.8],
      [5, 1.1],
      [4, 1.2],
    ]) {
      const { lost } = withSpecks(told(blurred(20, 15, area, sigma)), 100);
      expect(sum(lost) / area, `${area} px under a blur of ${sigma}`).toBeGreaterThan(0.75);
      expect(sum(lost) / area).toBeLessThan(1.02);
    }
  });

  it('is bare on the map only where most of a pixel is', () => {
    const { bare, lost } = withSpecks(told(blurred(20, 15, 4, 0.8)), 100);
    expect(bare[at(20, 15)]).toBe(1);
    expect(bare[at(21, 15)]).toBe(0);
    expect(lost[at(21, 15)]).toBeCloseTo(0.455, 2);
    expect(sum(bare)).toBe(1);
  });

  it('is not believed where ink alone may look so: within four scatters, or under a sixth', () => {
    const dot = (value: number) => (x: number, y: number) => (x === 9 && y === 9 ? value : 0);
    const found = (value: number, scatter: number) =>
      sum(withSpecks(told(dot(value), { scatter: () => scatter }), 100).lost);
    expect(found(0.3, 0.074)).toBeCloseTo(0.3, 6);
    expect(found(0.3, 0.076)).toBe(0);
    expect(found(0.16, 0.001)).toBeCloseTo(0.16, 6);
    expect(found(0.14, 0.001)).toBe(0);
  });

  it('is not looked for at the picture’s own edges, nor where nothing is inked or could be seen', () => {
    const dot = (x: number, y: number) => (x === 9 && y === 9 ? 0.9 : 0);
    const only = (i: number) => Uint8Array.from({ length: COUNT }, (_, k) => (k === i ? 1 : 0));
    expect(sum(withSpecks(told(dot, { steep: only(at(9, 9)) }), 100).lost)).toBe(0);
    const counted = only(at(9, 9)).map(v => 1 - v);
    expect(sum(withSpecks(told(dot, { counted }), 100).lost)).toBe(0);
  });

  it('takes its rim two pixels round it and no farther, and nothing under a tenth', () => {
    const line = (x: number, y: number) => (y === 9 ? [0.6, 0.3, 0.2, 0.2, 0.2][x - 9] || 0 : 0);
    expect(sum(withSpecks(told(line), 100).lost)).toBeCloseTo(0.6 + 0.3 + 0.2 + 0.2 + 0.2, 5);
    const scattered = { scatter: (i: number) => (i % W === 9 ? 0.02 : 1) };
    expect(sum(withSpecks(told(line, scattered), 100).lost)).toBeCloseTo(0.6 + 0.3 + 0.2, 5);
    const faint = (x: number, y: number) => (y === 9 ? [0.6, 0.09][x - 9] || 0 : 0);
    expect(sum(withSpecks(told(faint, scattered), 100).lost)).toBeCloseTo(0.6, 5);
  });
});

describe('a place that is bare all over', () => {
  const hole = Uint8Array.from({ length: COUNT }, (_, i) =>
    Math.hypot((i % W) - 20, Math.floor(i / W) - 15) < 8 ? 1 : 0,
  );
  const soft = (x: number, y: number) => Math.min(1, Math.max(0, 0.5 + (8 - Math.hypot(x - 20, y - 15)) / 3));

  it('is counted with its rim by the share of each pixel, so that its area is true', () => {
    const { bare, lost } = withSpecks(told(soft, { bare: hole }), 100);
    expect(bare).toEqual(hole);
    expect(Math.abs(sum(lost) - Math.PI * 64)).toBeLessThan(2);
    // Inside nothing is by halves, and one pixel beyond the rim nothing is counted.
    expect(lost[at(20, 15)]).toBe(1);
    const veiled = (x: number, y: number) => Math.min(0.7, soft(x, y));
    expect(withSpecks(told(veiled, { bare: hole }), 100).lost[at(20, 15)]).toBe(1);
    expect(lost[at(20 + 8, 15)]).toBeCloseTo(soft(28, 15), 6);
    expect(soft(29, 15)).toBeGreaterThan(0.1);
    expect(lost[at(20 + 9, 15)]).toBe(0);
  });

  it('is counted as it was found where the picture itself has an edge, or is none', () => {
    const all = (value: number) => new Uint8Array(COUNT).fill(value);
    expect(withSpecks(told(soft, { bare: hole, steep: all(1) }), 100).lost).toEqual(Float32Array.from(hole));
    const { lost } = withSpecks(
      told(() => 0.6, { bare: all(1), counted: hole }),
      100,
    );
    expect(lost.every((v, i) => v === 1 || !hole[i])).toBe(true);
  });

  it('of less than the least that is listed goes by its shares', () => {
    const { lost } = withSpecks(told(soft, { bare: hole }), sum(hole) + 1);
    expect(sum(lost)).not.toBe(sum(hole));
    expect(Math.abs(sum(lost) - Math.PI * 64)).toBeLessThan(12);
  });
});

it('noise alone makes no speck: none in ten pictures of sound ink', () => {
  for (let seed = 0; seed < 10; seed++) {
    const chance = chanceFrom(seed);
    const noise = Float32Array.from({ length: COUNT }, () => 0.03 * chance.normal());
    const { lost } = withSpecks(
      told((x, y) => noise[at(x, y)], { scatter: () => 0.03 }),
      100,
    );
    expect(sum(lost)).toBeLessThan(0.5);
  }
});
