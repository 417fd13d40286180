import { mirrorReason, mirrors } from '../../../core/methods/index.ts';
import { many, say, sized, type Words, within } from '../../../core/say/index.ts';
import type { Agenda } from '../../../core/schedule/index.ts';
import {
  benchSheets,
  cardSheet,
  cornersSheet,
  type DonorSet,
  labelSheets,
  ladderCard,
  mapSheets,
  type Sheets,
  targetSheet,
} from '../../../core/sheets/index.ts';
import { BY_HAND } from '../../../core/shelf/index.ts';
import { cardSizes, methodsOf, settingsOf, shortSide, type TrialPlan } from '../../../core/trial/index.ts';

/** One file that can be printed for a trial. */
export interface Paper {
  readonly id: string;
  readonly name: string;
  readonly says: Words;
  readonly file: string;
  make(): Sheets;
}

const sheets = ({ pages }: DonorSet) => many(pages.length, 'sheet');

/** Whether the sheets are mirrored and why, in sentences; of each method where several are compared. */
export function mirrorReasons(plan: TrialPlan): string[] {
  const several = methodsOf(plan).length > 1;
  const said = plan.patches.map(patch => {
    const { method, donor } = settingsOf(plan, patch);
    return `${several ? `${method.name}: ` : ''}${mirrorReason(method, donor.kind)}`;
  });
  return [...new Set(said)];
}

/** The donor sheets of one printer and donor as a paper. */
export const donorPaper = (plan: TrialPlan, set: DonorSet, isDouble = false): Paper => ({
  id: `donor ${set.printer.id} ${set.donor.id} ${set.isMirrored ? 'mirrored' : 'as seen'}`,
  name: BY_HAND[set.printer.colourant]
    ? `Guide for ${within(set.printer.name)}`
    : `${set.donor.name} through ${within(set.printer.name)}`,
  says: BY_HAND[set.printer.colourant]
    ? say`${sheets(set)} of plain paper, ${set.pieces} places; the colour comes by hand`
    : say`${sheets(set)}, ${set.pieces} prints, on ${set.donor.printSide}${isDouble ? `, ${set.isMirrored ? 'mirrored' : 'not mirrored'}` : ''}`,
  file: `${plan.code}-${set.printer.id}-${set.donor.id}${isDouble && set.isMirrored ? '-mirrored' : ''}.pdf`,
  make: () => set,
});

/** Cards, labels and sheets for the bench of a trial; the bench sheet with the times of its agenda. */
export function otherPapers(plan: TrialPlan, agenda?: Agenda): Paper[] {
  const [card] = cardSizes(plan);
  const across = card.w === card.h ? `${card.w}` : `${card.w} × ${card.h}`;
  const papers: Paper[] = [
    {
      id: 'card',
      name: 'Reading card',
      says: say`Once, on plain white paper: cut out the grey window. It fits every patch of ${sized(card)}.`,
      file: `reading-card-${across.replaceAll(' ', '')}mm.pdf`,
      make: () => cardSheet(card),
    },
    {
      id: 'labels',
      name: 'Back labels',
      says: 'A label with code and QR for the back of each piece.',
      file: `${plan.code}-labels.pdf`,
      make: () => labelSheets(plan),
    },
    {
      id: 'map',
      name: 'Board map',
      says: 'What lies where, to glue on the back of the board.',
      file: `${plan.code}-map.pdf`,
      make: () => mapSheets(plan),
    },
    {
      id: 'bench',
      name: 'Paper bench sheet',
      says: 'For those who want no screen near water: a row a patch, a box a step.',
      file: `${plan.code}-bench-sheet.pdf`,
      make: () => benchSheets(plan, agenda),
    },
    {
      id: 'corners',
      name: 'Board corner pieces',
      says: 'Four pieces to lay beside a board’s corners, for one photo of all of it.',
      file: 'board-corners.pdf',
      make: () => cornersSheet(plan.code),
    },
    {
      id: 'strip',
      name: 'Long test strip',
      says: 'Tone steps and falling lines in a strip, for narrow pieces.',
      file: `test-strip-${shortSide(plan)}mm.pdf`,
      make: () =>
        targetSheet(Math.min(45, shortSide(plan)), {
          strip: true,
          mirror: mirrors(plan.used.method, plan.used.donors[0]?.kind),
        }),
    },
  ];
  if (ladderCard(plan))
    papers.splice(4, 0, {
      id: 'ladder',
      name: 'Ladder card',
      says: 'A rung a wait, with boxes to tick what you saw.',
      file: `${plan.code}-ladder.pdf`,
      make: () => ladderCard(plan)!,
    });
  return papers;
}
