import { quantile } from './middle.ts';
import { type Bared, BEGINS, type Told } from './specks.ts';

/** What of sound ink a Student t of five degrees of freedom says: two of its quantiles, and its density at zero. */
const [LOW, HIGH] = [0.4, 0.8];
const [T_LOW, T_HIGH] = [-0.2672, 0.9195];
const T_TOP = 0.3796;
const TAIL = 5;
const tailed = (z: number) => T_TOP * (1 + (z * z) / TAIL) ** (-(TAIL + 1) / 2);

/** Bare ground has to stand out of ink under its veil by two of its scatters, or no share of it means anything. */
const MOST_SCATTER = 0.5;
/** Ink may be so much evener than is taken of it, and no more. */
const LEAST_OWN = 0.2;
/** Fewer pixels tell neither how even ink is nor how many specks there are. */
const LEAST_ASKED = 400;
const FIRST_RATE = 0.01;
const ROUNDS = 20;

/**
 * The shares lost to specks that are too faint, or too small, to be told one by one: for each pixel that is taken to
 * have landed its share of bare ground times the chance that this is a speck. Pixels are a mixture of sound ink, which
 * scatters about its own middle with long tails, and of specks, whose shares are of any size. How even the ink is comes
 * from the middle of this photo's own pixels, where specks are too few to matter; how many specks there are by
 * expectation–maximisation (Dempster, Laird and Rubin 1977). Where the picture is steep, ink is less even: those pixels
 * are judged among themselves. Gives shares as {@link Bared.lost}, of all pixels.
 */
export function withFaintSpecks(told: Told, { bare, lost }: Bared): Float32Array {
  const out = Float32Array.from(lost);
  for (const isSteep of [0, 1]) {
    const group: number[] = [];
    const scatters: number[] = [];
    for (let i = 0; i < out.length; i++) {
      if (!told.counted[i] || bare[i] || lost[i] || told.steep[i] !== isSteep) continue;
      const scatter = told.scatter(i);
      if (scatter > MOST_SCATTER) continue;
      group.push(i);
      scatters.push(scatter);
    }
    if (group.length < LEAST_ASKED) continue;
    const share = Float32Array.from(group, told.share);
    const chance = chancesOf(share, Float32Array.from(scatters));
    for (let k = 0; k < group.length; k++) out[group[k]] = chance[k] * share[k];
  }
  return out;
}

/** The chance that each share, 0–1, is a speck's; `scatter`: how far sound ink may scatter at the most. */
function chancesOf(share: Float32Array, scatter: Float32Array): Float32Array {
  const z = share.map((s, k) => s / scatter[k]);
  const low = quantile(z, LOW);
  const own = Math.min(1, Math.max(LEAST_OWN, (quantile(z, HIGH) - low) / (T_HIGH - T_LOW)));
  const middle = Math.max(0, low - T_LOW * own);
  const chance = new Float32Array(share.length);
  // How likely sound ink is to look so, against a speck of any size: 1 / (1 − BEGINS) for each share from there to 1.
  const sound = share.map((_, k) =>
    share[k] > BEGINS
      ? ((1 - BEGINS) * tailed(Math.max(0, z[k] - middle) / own)) / (own * scatter[k])
      : Number.POSITIVE_INFINITY,
  );
  let rate = FIRST_RATE;
  for (let round = 0; round < ROUNDS; round++) {
    let sum = 0;
    for (let k = 0; k < chance.length; k++) {
      chance[k] = rate / (rate + (1 - rate) * sound[k]);
      sum += chance[k];
    }
    rate = sum / chance.length;
  }
  return chance;
}
