import {
  differenceCiede2000,
  modeLab65,
  modeLrgb,
  modeRgb,
  modeXyz65,
  useMode as registerSpace,
} from 'culori/fn';
import type { Reading } from '../trial/index.ts';
import { barePatches } from './bare.ts';
import { type Ground, INKED_BELOW, type Sorted } from './classify.ts';
import type { Cv, Plane } from './cv.ts';
import { stateMap, veilMap } from './maps.ts';
import type { Registration } from './register.ts';
import { PX } from './straighten.ts';

/** Rounded to so many decimals. */
export const tidy = (v: number, digits: number) => Math.round(v * 10 ** digits) / 10 ** digits;

/** Pixels of the picture that are inked, of those visible, and of those bare. */
export function tally({ inked, visible, bare }: Sorted) {
  const out = { inked: 0, visible: 0, bare: 0 };
  for (let i = 0; i < inked.length; i++) {
    out.inked += inked[i];
    out.visible += inked[i] & visible[i];
    out.bare += bare[i];
  }
  return out;
}

/** What a reading is added up from. */
export interface Parts {
  readonly seen: readonly [Plane, Plane, Plane];
  readonly ink: Plane;
  readonly ground: Ground;
  readonly sorted: Sorted;
  readonly found: Registration;
  readonly stage: 'wet' | 'dry';
  readonly quality: Reading['quality'];
  readonly detail: number | null;
}

/** Bare specks are spoken of from so many percent of the picture on: what edges alone come to is less. */
const WORTH_SAYING = 3;

/** All numbers of a reading. */
export function addUp(cv: Cv, parts: Parts, isKnown: boolean): Reading {
  const { sorted, ink, found, stage, quality } = parts;
  const { side } = sorted;
  const sums = tally(sorted);
  const landed = 100 * (1 - sums.bare / sums.visible);
  let haze = 0;
  let held = 0;
  for (let i = 0; i < side * side; i++)
    if (sorted.inked[i] && sorted.visible[i] && !sorted.bare[i]) {
      haze += sorted.veil[i];
      held++;
    }
  const veil = stage === 'dry' && held > 0.05 * sums.inked ? haze / held : null;
  const notes: string[] = [];
  if (stage === 'wet')
    notes.push('Veil is not given: paper is invisible while it is wet. Photograph it again dry.');
  if (isKnown && found.mirrored) notes.push('The picture is backwards.');
  if (!isKnown) notes.push('Almost nothing landed, so where the picture lies is a guess.');
  const bare = barePatches(cv, sorted.bare, side);
  const listed = bare.reduce((area, b) => area + b.area, 0) * PX ** 2;
  const specks = (100 * (sums.bare - listed)) / sums.visible;
  if (specks >= WORTH_SAYING)
    notes.push(`About ${specks.toFixed(0)} % of it is bare in specks too small to be listed one by one.`);
  return {
    landed: tidy(landed, 1),
    landedGive: tidy(0.8 + 100 * sorted.doubt * 1.2, 1),
    visible: tidy((100 * sums.visible) / sums.inked, 1),
    bare,
    veil: veil === null ? null : tidy(veil, 3),
    veilGive: veil === null ? null : tidy(0.02 + 0.08 * veil, 3),
    stain: stainOf(parts),
    tone: toneOf(parts),
    detail: parts.detail === null ? null : tidy(parts.detail, 2),
    landedByTone: {
      dark: landedWhere(sorted, ink, 0, 0.12),
      mid: landedWhere(sorted, ink, 0.12, 0.35),
      light: landedWhere(sorted, ink, 0.35, INKED_BELOW),
    },
    edges: edgesOf(sorted),
    mirrored: isKnown && found.mirrored,
    turn: isKnown ? found.turn : 0,
    quality,
    notes,
    maps: { state: stateMap(sorted), veil: veilMap(sorted) },
  };
}

function landedWhere(s: Sorted, ink: Plane, from: number, to: number): number | null {
  let area = 0;
  let bare = 0;
  for (let i = 0; i < ink.data.length; i++)
    if (ink.data[i] >= from && ink.data[i] < to && s.visible[i]) {
      area++;
      bare += s.bare[i];
    }
  return area < 150 ? null : tidy(100 * (1 - bare / area), 1);
}

/** Landed within 2 mm of each side, %. */
function edgesOf(s: Sorted): Reading['edges'] {
  const deep = 2 * PX;
  const of = (inside: (x: number, y: number) => boolean) => {
    let area = 0;
    let bare = 0;
    for (let i = 0; i < s.inked.length; i++) {
      if (!s.inked[i] || !s.visible[i] || !inside(i % s.side, Math.floor(i / s.side))) continue;
      area++;
      bare += s.bare[i];
    }
    return area ? tidy(100 * (1 - bare / area), 1) : 0;
  };
  return {
    top: of((_, y) => y < deep),
    right: of(x => x >= s.side - deep),
    bottom: of((_, y) => y >= s.side - deep),
    left: of(x => x < deep),
  };
}

/** Share (%) of the picture's white parts, 0.5 mm clear of ink, that is darker than ground and grain explain. */
export function stainOf({
  seen,
  ink,
  ground,
  sorted,
}: Pick<Parts, 'seen' | 'ink' | 'ground' | 'sorted'>): number | null {
  const { side } = sorted;
  const limit = Math.sqrt(ground.cov[1]);
  const clear = 5;
  let white = 0;
  let dark = 0;
  for (let y = clear; y < side - clear; y++)
    for (let x = clear; x < side - clear; x++) {
      if (
        ![0, clear, -clear].every(
          d => ink.data[y * side + x + d] > 0.95 && ink.data[(y + d) * side + x] > 0.95,
        )
      )
        continue;
      white++;
      const base = ground.at(x, y);
      const v = seen[1].data[y * side + x];
      if (v < base[1] - 3 * limit - 0.04 && v < base[1] * 0.8) dark++;
    }
  return white < 200 ? null : tidy((100 * dark) / white, 1);
}

for (const space of [modeRgb, modeLrgb, modeXyz65, modeLab65]) registerSpace(space);
const difference = differenceCiede2000();

/** Median CIEDE2000 between ink on this ground and what is seen, on landed solids under little veil. */
export function toneOf({
  seen,
  ink,
  ground,
  sorted,
  stage,
}: Pick<Parts, 'seen' | 'ink' | 'ground' | 'sorted' | 'stage'>): number | null {
  if (stage !== 'dry') return null;
  const found: number[] = [];
  for (let i = 0; i < ink.data.length; i += 5) {
    if (ink.data[i] > 0.5 || sorted.bare[i] || !sorted.visible[i] || sorted.veil[i] > 0.1) continue;
    const base = ground.at(i % sorted.side, Math.floor(i / sorted.side));
    const expected = base.map(b => b * ink.data[i]);
    const got = seen.map(plane => Math.max(0, plane.data[i]));
    found.push(difference(lrgb(expected), lrgb(got)));
  }
  if (found.length < 100) return null;
  found.sort((a, b) => a - b);
  return tidy(found[found.length >> 1], 1);
}

const lrgb = ([r, g, b]: readonly number[]) => ({ mode: 'lrgb' as const, r, g, b });
