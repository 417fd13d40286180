import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { withFaintSpecks } from './faint-specks.ts';
import type { Told } from './specks.ts';

const [W, H] = [120, 100];
const COUNT = W * H;
const none = () => ({ bare: new Uint8Array(COUNT), lost: new Float32Array(COUNT) });
const told = (share: Float32Array, part: Partial<Told> = {}): Told => ({
  w: W,
  h: H,
  counted: new Uint8Array(COUNT).fill(1),
  bare: new Uint8Array(COUNT),
  steep: new Uint8Array(COUNT),
  share: i => share[i],
  scatter: () => 0.2,
  ...part,
});
const sum = (of: ArrayLike<number>) => Array.from(of).reduce((a, b) => a + b, 0);

/** Sound ink of so much scatter, and at so many of its pixels a speck of this share. */
function inked(scatter: number, rate: number, share: number, seed = 1, lift = 0) {
  const chance = chanceFrom(seed);
  let lost = 0;
  const shares = Float32Array.from({ length: COUNT }, () => {
    const isSpeck = chance.next() < rate;
    lost += isSpeck ? share : 0;
    return Math.min(1, Math.max(0, lift + scatter * chance.normal() + (isSpeck ? share : 0)));
  });
  return { shares, lost };
}

describe('specks too faint to be told one by one', () => {
  it('are added up as they are on the whole, few or many, of ink that is evener than it is taken to be', () => {
    for (const scatter of [0.04, 0.06])
      for (const [rate, share] of [
        [0.01, 0.6],
        [0.04, 0.6],
        [0.08, 0.45],
      ]) {
        const { shares, lost } = inked(scatter, rate, share);
        const read = sum(withFaintSpecks(told(shares), none()));
        expect(read / lost, `${rate} of ${share} on ${scatter}`).toBeGreaterThan(0.8);
        expect(read / lost, `${rate} of ${share} on ${scatter}`).toBeLessThan(1.12);
      }
  });

  it('are none where there are none, and where ink is as uneven as it may be', () => {
    for (const scatter of [0.02, 0.05, 0.1, 0.2])
      for (let seed = 0; seed < 4; seed++) {
        const { shares } = inked(scatter, 0, 0, seed);
        const read = sum(withFaintSpecks(told(shares, { scatter: () => 0.2 }), none())) / COUNT;
        expect(read, `${scatter}`).toBeLessThan(0.002);
      }
  });

  it('are not taken for those of ink that lies a little off all over', () => {
    const { shares } = inked(0.04, 0, 0, 3, 0.1);
    expect(sum(withFaintSpecks(told(shares), none())) / COUNT).toBeLessThan(0.003);
  });

  it('are not seen where they show less than a seventh, nor in a handful of pixels', () => {
    const faint = inked(0.01, 0.05, 0.11);
    expect(sum(withFaintSpecks(told(faint.shares), none()))).toBeLessThan(0.05 * faint.lost);
    const { shares } = inked(0.04, 0.04, 0.6);
    const counted = (n: number) => Uint8Array.from({ length: COUNT }, (_, i) => (i < n ? 1 : 0));
    expect(sum(withFaintSpecks(told(shares, { counted: counted(399) }), none()))).toBe(0);
    expect(sum(withFaintSpecks(told(shares, { counted: counted(400) }), none()))).toBeGreaterThan(4);
  });

  it('are not asked after where bare ground looks like the ink under its veil', () => {
    const { shares, lost } = inked(0.04, 0.04, 0.6);
    const read = (scatter: number) => sum(withFaintSpecks(told(shares, { scatter: () => scatter }), none()));
    expect(read(0.51)).toBe(0);
    expect(read(0.49)).toBeGreaterThan(0.5 * lost);
  });

  it('leave alone what was counted already, and what is not inked', () => {
    const { shares } = inked(0.04, 0.04, 0.6);
    const bared = none();
    bared.bare.fill(1, 0, 3000);
    bared.lost.fill(1, 0, 3000);
    bared.lost.fill(0.3, 3000, 6000);
    const counted = Uint8Array.from({ length: COUNT }, (_, i) => (i < 9000 ? 1 : 0));
    const read = withFaintSpecks(told(shares, { counted }), bared);
    expect(read.slice(0, 3000)).toEqual(new Float32Array(3000).fill(1));
    expect(read.slice(3000, 6000)).toEqual(new Float32Array(3000).fill(0.3));
    expect(sum(read.slice(6000, 9000))).toBeGreaterThan(50);
    expect(sum(read.slice(9000))).toBe(0);
  });

  it('are judged among their like: what is uneven at the picture’s edges makes the rest no less sure', () => {
    const [even, uneven] = [inked(0.03, 0.03, 0.4), inked(0.2, 0, 0, 5)];
    const steep = Uint8Array.from({ length: COUNT }, (_, i) => i & 1);
    const mixed = even.shares.map((s, i) => (steep[i] ? uneven.shares[i] : s));
    const read = withFaintSpecks(told(mixed, { steep }), none());
    expect(sum(read.filter((_, i) => !steep[i])) / (even.lost / 2)).toBeGreaterThan(0.8);
    expect(sum(read.filter((_, i) => steep[i])) / (COUNT / 2)).toBeLessThan(0.003);
  });
});
