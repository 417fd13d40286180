import type { Reading } from '../trial/index.ts';
import type { SignalKey } from './signals.ts';

/** A place on the finished picture that evidence speaks of; mm from its top left, degrees from level. */
export type Place =
  | { readonly kind: 'spot'; readonly x: number; readonly y: number; readonly r: number }
  | { readonly kind: 'side'; readonly side: keyof Reading['edges'] }
  | { readonly kind: 'along'; readonly deg: number }
  | { readonly kind: 'map'; readonly of: 'bare' | 'veil' };

type Look = (reading: Reading) => readonly Place[];

/** At most so many spots are shown, the largest: more hide the picture. */
const MOST_SPOTS = 12;

const spots =
  (shape?: string): Look =>
  reading =>
    reading.bare
      .filter(b => !shape || b.shape === shape)
      .sort((a, b) => b.area - a.area)
      .slice(0, MOST_SPOTS)
      .map(b => ({ kind: 'spot', x: b.x, y: b.y, r: Math.max(1.2, Math.sqrt(b.area / Math.PI) * 1.4) }));
const map =
  (of: 'bare' | 'veil'): Look =>
  () => [{ kind: 'map', of }];
const along: Look = ({ smear, smearAlong }) =>
  smear && smearAlong !== null ? [{ kind: 'along', deg: smearAlong }] : [];
const worstSide: Look = ({ edges }) => {
  const sides = Object.keys(edges) as (keyof Reading['edges'])[];
  const least = Math.min(...sides.map(s => edges[s]));
  return least < 100 ? sides.filter(s => edges[s] === least).map(side => ({ kind: 'side', side })) : [];
};

/** Where on the picture each signal was read; signals that are of no place (times, choices, tone) are not here. */
const LOOKS: Partial<Record<SignalKey, Look>> = {
  bareShare: map('bare'),
  bareCount: spots(),
  largestBareMm2: reading => spots()(reading).slice(0, 1),
  roundShare: spots('round'),
  streakShare: spots('streak'),
  streakLevel: spots('streak'),
  edgeShare: spots('edge band'),
  cornerShare: spots('corner'),
  raggedShare: spots('ragged'),
  speckleShare: map('bare'),
  edgeLoss: worstSide,
  lightLoss: map('bare'),
  veil: map('veil'),
  veilDrop: map('veil'),
  smear: along,
  smearDown: along,
};

/**
 * The places on a patch that the evidence for a cause speaks of, each once; none where it speaks of times and choices
 * alone.
 */
export function placesOf(signals: readonly string[], reading: Reading): readonly Place[] {
  const all = signals.flatMap(s => LOOKS[s as SignalKey]?.(reading) ?? []);
  return [...new Map(all.map(p => [JSON.stringify(p), p])).values()];
}

/**
 * What is marked, in words.
 *
 * @example placeWords([{ kind: 'side', side: 'top' }]); // => 'Marked: the top edge.'
 */
export function placeWords(places: readonly Place[]): string {
  const count = places.filter(p => p.kind === 'spot').length;
  const words = [
    ...(count ? [count === 1 ? 'one bare place' : `${count} bare places`] : []),
    ...places.flatMap(p =>
      p.kind === 'side'
        ? [`the ${p.side} edge`]
        : p.kind === 'along'
          ? ['the way it is smeared']
          : p.kind === 'map'
            ? [p.of === 'bare' ? 'all that is bare, hatched' : 'the veil, dots the denser the thicker']
            : [],
    ),
  ];
  return words.length ? `Marked: ${words.join('; ')}.` : '';
}
