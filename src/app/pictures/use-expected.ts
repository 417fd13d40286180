import { useKnown } from '../workshop/use-known.ts';
import { useWorkshop } from '../workshop/workshop.ts';

export interface Expected {
  readonly landedLo: number;
  readonly landedHi: number;
  readonly veil: number;
  readonly veilLo: number;
  readonly veilHi: number;
  readonly patches: number;
  /** The finest line three patches in four kept, mm, where it was read. */
  readonly kept?: { readonly mm: number; readonly patches: number };
}

const middle = (sorted: readonly number[], share: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))];

/** What the maker's own patches by this method came to, the middle half of them; nothing while there are fewer than four. */
export function useExpected(method: string): Expected | undefined {
  const trials = useKnown(useWorkshop()).filter(k => k.method === method);
  const of = (measure: 'landed' | 'veil' | 'detail') =>
    trials.flatMap(k => k.results[measure] ?? []).sort((a, b) => a - b);
  const [landed, veil, detail] = [of('landed'), of('veil'), of('detail')];
  if (landed.length < 4 || veil.length < 4) return undefined;
  return {
    landedLo: middle(landed, 0.25),
    landedHi: middle(landed, 0.75),
    veil: middle(veil, 0.5),
    veilLo: middle(veil, 0.25),
    veilHi: middle(veil, 0.75),
    patches: landed.length,
    ...(detail.length >= 4 ? { kept: { mm: middle(detail, 0.75), patches: detail.length } } : {}),
  };
}
