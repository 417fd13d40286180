import { type Method, mirrorReason, mirrors } from '../methods/index.ts';
import { mm, say, type Words, within } from '../say/index.ts';
import type { Donor, Printer, Substrate } from '../shelf/index.ts';
import { DONORS, isOne, labOf } from '../shelf/index.ts';
import { type PictureFacts, thinnerThan } from './measure.ts';
import type { Edit } from './schema.ts';
import { tooLargeFor } from './size.ts';

/** One thing to know before this picture is printed, with the edit that mends it where there is one. */
export interface PictureNote {
  readonly id: string;
  readonly severity: 'stop' | 'warn' | 'advise' | 'good';
  readonly say: Words;
  readonly fix?: { readonly name: string; readonly edit: Edit };
}

export interface PictureJob {
  readonly facts: PictureFacts;
  readonly method: Method;
  readonly printer: Printer;
  readonly donor: Donor;
  readonly grounds: readonly Substrate[];
  readonly size: { readonly w: number; readonly h: number };
  readonly hasText: boolean | null;
  /** The finest line the maker's own patches kept by this method, mm, and how many patches that comes from. */
  readonly kept?: { readonly mm: number; readonly patches: number };
}

const pct = (v: number) => `${Math.round(v * 100)} %`;

/** Finest line a way of taking the paper off keeps, mm: a starting point where there are no readings. */
const KEEPS: Record<Method['removal'], number> = {
  rub: 0.4,
  soak: 0.4,
  peel: 0.4,
  pull: 0.8,
  dissolve: 0.4,
  none: 0,
};

/** Dots of a printer across the finest line that it draws whole. */
const DOTS_OF_A_LINE = 2;

/** The finest line that can come through, mm, and what that is known from: own readings, the printer's dots, or what is usual. */
function finestKept({ kept, method, printer }: PictureJob): { mm: number; why: string } {
  if (kept) return { mm: kept.mm, why: `the finest that your own ${kept.patches} patches kept` };
  const usual = KEEPS[method.removal];
  const drawn = (DOTS_OF_A_LINE * 25.4) / printer.dpi;
  if (usual === 0 || drawn <= usual) return { mm: usual, why: 'finer than this method usually keeps' };
  return {
    mm: Number(drawn.toFixed(2)),
    why: `finer than ${within(printer.name)} draws at ${printer.dpi} dpi`,
  };
}

/** What one look at a picture has to say, or nothing. */
type Look = (job: PictureJob) => PictureNote | false | undefined;

/** Lightness L* below which a ground shows through what is white or pale in a picture. */
const DARK_GROUND = 75;
/** Longest side above which tape and tissue meet their own edges, mm. */
const WIDE_MM = 150;
const isWide = ({ size }: PictureJob) => Math.max(size.w, size.h) > WIDE_MM;

const writing: Look = ({ hasText, method, donor }) => {
  const isMirrored = mirrors(method, donor.kind);
  return (
    hasText === true && {
      id: isMirrored ? 'text-mirrored' : 'text-plain',
      severity: 'good',
      say: `There is writing in it, and the sheet is ${isMirrored ? 'mirrored for you' : 'not mirrored'}: ${mirrorReason(method, donor.kind)}`,
    }
  );
};

const tooLarge: Look = ({ size, donor }) => {
  const why = tooLargeFor(size, donor);
  return why !== undefined && { id: 'too-large', severity: 'stop', say: why };
};

const whitesGo: Look = ({ facts, grounds, donor }) => {
  const darkest = [...grounds].sort((a, b) => labOf(a.colour).l - labOf(b.colour).l)[0];
  if (!darkest || isOne(DONORS.opaque, donor.kind) || labOf(darkest.colour).l >= DARK_GROUND) return;
  if (facts.white + facts.pale <= 0.15) return;
  return {
    id: 'whites-go',
    severity: 'warn',
    say: `${pct(facts.white + facts.pale * (1 - facts.white))} of it is white or pale, and no printer has white ink: on ${within(darkest.name)} those parts take the colour of the ground. Whiten the ground, or look at the preview and decide that you like it.`,
  };
};

const lowContrast: Look = ({ facts }) =>
  facts.contrast < 45 && {
    id: 'low-contrast',
    severity: 'warn',
    say: `Light and dark lie close together (${facts.contrast.toFixed(0)} of 100 steps): after the transfer it will look flat.`,
    fix: { name: 'More contrast', edit: { kind: 'contrast', amount: 0.35 } },
  };

const paleTones: Look = ({ facts, method }) =>
  ['rub', 'peel', 'dissolve'].includes(method.removal) &&
  facts.pale > 0.3 && {
    id: 'pale-tones',
    severity: 'warn',
    say: `${pct(facts.pale)} of what is printed is pale. Pale tones are few grains on paper, and they come off speckled.`,
    fix: { name: 'More contrast', edit: { kind: 'contrast', amount: 0.25 } },
  };

const mostlyBlack: Look = ({ facts, printer }) =>
  facts.black > 0.5 && {
    id: 'mostly-black',
    severity: 'advise',
    say: `${pct(facts.black)} of it is near black: it drinks ${printer.oneColour ? 'toner' : 'ink'} and shows every bare patch.`,
    fix: { name: 'Lighten it', edit: { kind: 'lighten', amount: 0.25 } },
  };

const fineDetail: Look = job => {
  const { mm: keeps, why } = finestKept(job);
  const thin = keeps > 0 ? thinnerThan(job.facts, keeps) : 0;
  return (
    thin > 0.12 && {
      id: 'fine-detail',
      severity: 'warn',
      say: say`${pct(thin)} of its dark parts are thinner than ${mm(keeps)} at this size, ${why}. Make it larger, or draw it bolder.`,
    }
  );
};

const busy: Look = ({ facts, method }) =>
  method.traits.includes('simple pictures only') &&
  facts.busy > 0.12 && {
    id: 'busy',
    severity: 'warn',
    say: 'A hot body needs a simple picture with strong contrast; this one is busy all over.',
    fix: {
      name: 'Take the background out',
      edit: { kind: 'background', colour: [...facts.background], tolerance: 18 },
    },
  };

const greyPaper: Look = ({ facts }) => {
  const { l } = labOf(facts.background);
  return (
    facts.backgroundShare > 0.4 &&
    l > 78 &&
    l < 96.5 && {
      id: 'grey-paper',
      severity: 'warn',
      say: 'Its background is not quite white: it prints as a thin haze with an edge all round.',
      fix: {
        name: 'Make the background white',
        edit: { kind: 'background', colour: [...facts.background], tolerance: 10 },
      },
    }
  );
};

const colourLost: Look = ({ facts, printer }) =>
  printer.oneColour &&
  facts.chroma > 8 && {
    id: 'colour-lost',
    severity: 'advise',
    say: `${printer.name} prints in one colour, so the views are in grey. Contrast that lies in colours alone is lost.`,
  };

const seamsOfTape: Look = job =>
  isWide(job) &&
  job.method.traits.includes('strips of tape') && {
    id: 'seams',
    severity: 'warn',
    say: 'At this size several strips of tape meet, and their seams show.',
  };

const edgeOfTissue: Look = job =>
  isWide(job) &&
  job.method.traits.includes('sheet of tissue') && {
    id: 'seams',
    severity: 'warn',
    say: 'At this size the edge of the tissue shows and bubbles come.',
  };

const LOOKS: readonly Look[] = [
  writing,
  tooLarge,
  whitesGo,
  lowContrast,
  paleTones,
  mostlyBlack,
  fineDetail,
  busy,
  greyPaper,
  colourLost,
  seamsOfTape,
  edgeOfTissue,
];

/** Whether a picture is fit for a method, printer, sheet and grounds: each finding says what to do, the gravest first. */
export function pictureNotes(job: PictureJob): PictureNote[] {
  const rank = { stop: 0, warn: 1, advise: 2, good: 3 } as const;
  return LOOKS.flatMap(look => look(job) || []).sort((a, b) => rank[a.severity] - rank[b.severity]);
}

/** What printing it once costs: sheet, page at 5 % cover, and the cover that goes beyond that. */
export function printCost(
  facts: PictureFacts,
  size: { w: number; h: number },
  printer: Printer,
  donor: Donor,
): number {
  const page = (size.w * size.h) / (210 * 297);
  const cover = printer.oneColour ? facts.cover : facts.inks;
  return donor.packPrice / donor.packSize + printer.pricePerPage * Math.max(1, (page * cover) / 0.05);
}
