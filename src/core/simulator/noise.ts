import { chanceFrom } from '../random/index.ts';

/** A smooth random field: value in 0–1 at any (x, y), with features about one unit across. */
export type Field = (x: number, y: number) => number;

const SIDE = 64;
const WRAP = SIDE - 1;
const ease = (t: number) => t * t * (3 - 2 * t);

/** Value noise on a wrapped 64 × 64 lattice with smooth interpolation. */
export function field(seed: number): Field {
  const chance = chanceFrom(seed);
  const lattice = Float32Array.from({ length: SIDE * SIDE }, () => chance.next());
  return (x, y) => {
    const x0 = Math.floor(x);
    const y0 = Math.floor(y);
    const fx = ease(x - x0);
    const fy = ease(y - y0);
    const left = x0 & WRAP;
    const right = (x0 + 1) & WRAP;
    const up = (y0 & WRAP) * SIDE;
    const down = ((y0 + 1) & WRAP) * SIDE;
    const top = lattice[up + left] * (1 - fx) + lattice[up + right] * fx;
    const low = lattice[down + left] * (1 - fx) + lattice[down + right] * fx;
    return top * (1 - fy) + low * fy;
  };
}

/** Several octaves of a field added up, each twice as fine and half as strong; still 0–1. */
export function rough(base: Field, octaves = 3): Field {
  let weight = 0;
  for (let o = 0; o < octaves; o++) weight += 0.5 ** o;
  return (x, y) => {
    let sum = 0;
    let amplitude = 1;
    for (let o = 0; o < octaves; o++) {
      sum += amplitude * base(x / amplitude + o * 17.3, y / amplitude + o * 5.7);
      amplitude /= 2;
    }
    return sum / weight;
  };
}
