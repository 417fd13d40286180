import type { Sorted } from './classify.ts';

/** Pixels of the picture that are inked, of those visible, and of those bare, rims of specks by their share. */
export function tally({ inked, visible, lost }: Pick<Sorted, 'inked' | 'visible' | 'lost'>) {
  const out = { inked: 0, visible: 0, bare: 0 };
  for (let i = 0; i < inked.length; i++) {
    out.inked += inked[i];
    out.visible += inked[i] & visible[i];
    out.bare += lost[i];
  }
  return out;
}
