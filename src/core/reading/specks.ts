/** What is asked of a sorted picture to find what is too small for its neighbours to be heard. */
export interface Told {
  readonly w: number;
  readonly h: number;
  /** 1 where the picture is inked and could be seen on this ground. */
  readonly counted: Uint8Array;
  /** 1 where a pixel and its neighbours together say bare. */
  readonly bare: Uint8Array;
  /** Share of pixel i that is bare, by its colour between ink and ground: 0–1. */
  readonly share: (i: number) => number;
  /** Standard deviation of that share where all of it landed: noise, grain, the ink's own scatter, the veil's fibres. */
  readonly scatter: (i: number) => number;
  /** 1 where the picture changes so steeply that a pixel's share says nothing. */
  readonly steep: Uint8Array;
}

/** What is bare, specks among it. */
export interface Bared {
  /** 1 where a pixel is bare for the most part. */
  readonly bare: Uint8Array;
  /** Share of each pixel that is bare: what a blurred speck has lost at its rim is counted too. */
  readonly lost: Float32Array;
}

/** A pixel is bare for the most part from here on. */
const MOSTLY = 0.5;
/** A speck begins where a pixel shows at least this much ground, and so many scatters more than landed ink may seem to. */
export const BEGINS = 0.15;
const SCATTERS = 4;
/** Its rim: so far round it, px, and from this share on; less is noise and veil. */
const RIM_PX = 2;
const RIM_SHARE = 0.1;

/**
 * Finds the specks that smoothing takes for landed. Neighbours are heard so that noise does not count as bare; a speck
 * of a few pixels is outvoted by them, however plainly it is seen. A blurred speck keeps its light: the sum of its
 * pixels' shares is its area, where counting those past the half leaves out its rim (Murray and Davies 1936, one pixel
 * at a time). Areas of `least` pixels and more are bare inside as they were found, and only their rims go by shares.
 */
export function withSpecks(told: Told, least: number): Bared {
  const { w, h, counted, bare, steep } = told;
  const out = Uint8Array.from(bare);
  const lost = Float32Array.from(bare);
  const part = new Float32Array(w * h);
  const reached = new Uint8Array(w * h);
  const seeds: number[] = [];
  for (let i = 0; i < bare.length; i++) {
    if (!counted[i] || (!bare[i] && steep[i])) continue;
    part[i] = told.share(i);
    if (bare[i] || (part[i] > BEGINS && part[i] > SCATTERS * told.scatter(i))) {
      seeds.push(i);
      reached[i] = RIM_PX + 1;
    }
  }
  for (const area of areas(told, seeds, reached, part)) {
    const core = area.filter(i => bare[i]);
    if (core.length >= least) {
      // Inside all of it is bare; where bare and landed meet, each pixel by how much of it is.
      for (const i of area)
        if (!steep[i] && beside(i, w, h).some(j => bare[j] !== bare[i] && counted[j])) lost[i] = part[i];
      continue;
    }
    for (const i of area) {
      lost[i] = part[i];
      out[i] = part[i] > MOSTLY ? 1 : 0;
    }
  }
  return { bare: out, lost };
}

/** The connected areas of seeds with their rims; `reached` holds how many steps a pixel may still go on, plus one. */
function areas(
  { w, h, counted, steep, share }: Told,
  seeds: readonly number[],
  reached: Uint8Array,
  part: Float32Array,
): number[][] {
  // Rims first, all at once, each a step at a time.
  let front = [...seeds];
  for (let step = RIM_PX; step > 0; step--) {
    const next: number[] = [];
    for (const i of front)
      for (const j of round(i, w, h)) {
        if (reached[j] || !counted[j] || steep[j]) continue;
        const s = share(j);
        if (s < RIM_SHARE) continue;
        part[j] = s;
        reached[j] = step;
        next.push(j);
      }
    front = next;
  }
  const taken = new Uint8Array(w * h);
  const found: number[][] = [];
  for (const seed of seeds) {
    if (taken[seed]) continue;
    taken[seed] = 1;
    const area = [seed];
    for (let k = 0; k < area.length; k++)
      for (const j of round(area[k], w, h))
        if (reached[j] && !taken[j]) {
          taken[j] = 1;
          area.push(j);
        }
    found.push(area);
  }
  return found;
}

/** The up to four pixels that share a side with a pixel. */
export function beside(i: number, w: number, h: number): number[] {
  const out: number[] = [];
  if (i % w) out.push(i - 1);
  if ((i + 1) % w) out.push(i + 1);
  if (i >= w) out.push(i - w);
  if (i + w < w * h) out.push(i + w);
  return out;
}

/** The up to eight neighbours of a pixel. */
function round(i: number, w: number, h: number): number[] {
  const x = i % w;
  const y = (i - x) / w;
  const out: number[] = [];
  for (let dy = y ? -1 : 0; dy <= (y + 1 < h ? 1 : 0); dy++)
    for (let dx = x ? -1 : 0; dx <= (x + 1 < w ? 1 : 0); dx++) if (dx || dy) out.push(i + dy * w + dx);
  return out;
}
