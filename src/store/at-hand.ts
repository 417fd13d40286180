import * as v from 'valibot';
import type { AtHand } from '../core/advice/index.ts';
import type { WorkshopName } from './stores.ts';

const Kept = v.object({
  trial: v.string(),
  patch: v.string(),
  step: v.string(),
  round: v.number(),
  since: v.pipe(v.number(), v.integer()),
});

const keyOf = (workshop: WorkshopName) => `wet-test-hands-${workshop}`;
/** Where storage is blocked: what this tab knows. */
const known = new Map<WorkshopName, { text: string | null; hand: AtHand | undefined }>();
const listeners = new Set<() => void>();

const read = (workshop: WorkshopName): string | null => {
  try {
    return localStorage.getItem(keyOf(workshop));
  } catch {
    return known.get(workshop)?.text ?? null;
  }
};

/** What the hands are at in a workshop, in every tab and after a reload; the same object until it changes. */
export function atHandIn(workshop: WorkshopName): AtHand | undefined {
  const text = read(workshop);
  const last = known.get(workshop);
  if (last && last.text === text) return last.hand;
  let hand: AtHand | undefined;
  try {
    const found = v.safeParse(Kept, JSON.parse(text ?? 'null'));
    hand = found.success ? found.output : undefined;
  } catch {
    hand = undefined;
  }
  known.set(workshop, { text, hand });
  return hand;
}

/** Says what the hands are at now, or that they are at nothing. */
export function setAtHand(workshop: WorkshopName, hand: AtHand | undefined): void {
  const text = hand ? JSON.stringify(hand) : null;
  known.set(workshop, { text, hand });
  try {
    if (text) localStorage.setItem(keyOf(workshop), text);
    else localStorage.removeItem(keyOf(workshop));
  } catch {
    // Storage is blocked: it holds for this tab.
  }
  for (const tell of listeners) tell();
}

/** Calls back whenever it changes, here or in another tab; returns what ends it. */
export function followAtHand(tell: () => void): () => void {
  const other = (e: StorageEvent) => e.key?.startsWith('wet-test-hands-') && tell();
  listeners.add(tell);
  if (typeof window !== 'undefined') window.addEventListener('storage', other);
  return () => {
    listeners.delete(tell);
    if (typeof window !== 'undefined') window.removeEventListener('storage', other);
  };
}
