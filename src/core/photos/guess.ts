import { codeIn } from '../codes/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import type { Trialled } from '../progress/index.ts';
import { carrierName, photosOf, standing } from '../trial/index.ts';

/** What is known of a photo before anybody says what it is of. */
export interface PhotoSeen {
  readonly name: string;
  readonly holds: 'card' | 'corners' | 'nothing';
  /** What a QR code in it says. */
  readonly says?: string;
  /** ISO time; nothing where the photo does not say. */
  readonly takenAt: string | null;
}

/** What a photo is taken to be of, and the reason in words. */
export interface Guess {
  readonly aim: { readonly code: string } | { readonly board: number };
  readonly why: string;
  /** Nobody needs to be asked: a label, a name or a hand said so. */
  readonly isSure: boolean;
}

/** How long after something was done to a patch a photo is still taken to be of it, minutes. */
const SOON_MIN = 20;
/** What the QR code of a label says: see `qrWords` of the sheets. */
const LABEL = /^WET TEST (\S+) (\S+)$/;

/**
 * What a photo of a trial is of: by its label, its name, the board's corners, the patch that was chosen, its time
 * against what was recorded, or as the next in the order of work that has no photo (`given`: those that other photos of
 * the same go were already given to; `isAlone`: no other photo came with it). Fails where its label is one of another trial.
 *
 * @example guessOf({ name: `${patch.code}.jpg`, holds: 'card', takenAt: null }, { plan, records }, {}).value.isSure; // => true
 */
export function guessOf(
  photo: PhotoSeen,
  { plan, records }: Trialled,
  {
    chosen,
    given = [],
    isAlone = false,
  }: { readonly chosen?: string; readonly given?: readonly string[]; readonly isAlone?: boolean },
): Outcome<Guess> {
  const codes = plan.patches.map(p => p.code);
  const label = LABEL.exec(photo.says ?? '');
  if (label && label[1] !== plan.id)
    return bad(
      'other-trial',
      `The label in this photo is of another trial: ${label[2]}.`,
      'Open that trial and choose the photo there, or cover the label and take it again.',
    );
  if (photo.holds === 'corners') return good(boardGuess(photo, plan, records, chosen));
  const sure = (code: string, why: string) => good({ aim: { code }, why, isSure: true });
  if (label && codes.includes(label[2])) return sure(label[2], 'Its label is in the photo.');
  const named = codeIn(photo.name, codes);
  if (named) return sure(named, 'Its code is in the name of the file.');
  if (chosen && isAlone) return sure(chosen, 'You chose it.');
  const timely = byTime(photo.takenAt, records, codes);
  if (timely && !given.includes(timely.code))
    return good({ aim: { code: timely.code }, why: timely.why, isSure: false });
  const order = [...plan.patches].sort((a, b) => a.order - b.order);
  const from = chosen ? order.findIndex(p => p.code === chosen) : 0;
  const turned = [...order.slice(from), ...order.slice(0, from)];
  const next =
    turned.find(p => !given.includes(p.code) && (chosen || !photosOf(records, p.code).length)) ??
    turned.find(p => !given.includes(p.code)) ??
    turned[0];
  const follows = next.code === chosen ? 'You chose it.' : `It follows ${chosen} in the order of work.`;
  const why = chosen ? follows : 'It is the next without a photo.';
  return good({ aim: { code: next.code }, why, isSure: false });
}

/** The patch that something was done to last before a photo was taken, if that was not long before. */
function byTime(takenAt: string | null, records: Trialled['records'], codes: readonly string[]) {
  if (!takenAt) return undefined;
  const at = Date.parse(takenAt);
  const last = standing(records).findLast(
    r => r.patch && codes.includes(r.patch) && r.kind === 'step' && !r.told && Date.parse(r.at) <= at,
  );
  if (!last?.patch) return undefined;
  const minutes = Math.round((at - Date.parse(last.at)) / 60_000);
  if (minutes > SOON_MIN) return undefined;
  return {
    code: last.patch,
    why: `Taken ${minutes < 1 ? 'within a minute' : `${minutes} min`} after something was done to it.`,
  };
}

function boardGuess(
  photo: PhotoSeen,
  plan: Trialled['plan'],
  records: Trialled['records'],
  chosen: string | undefined,
): Guess {
  const boards = [...new Set(plan.patches.map(p => p.board))].sort((a, b) => a - b);
  const on = (code: string | undefined) => plan.patches.find(p => p.code === code)?.board;
  const named = on(
    codeIn(
      photo.name,
      plan.patches.map(p => p.code),
    ),
  );
  const sure = (board: number, why: string) => ({ aim: { board }, why, isSure: true });
  if (boards.length === 1) return sure(boards[0], 'Its corner pieces are in the photo.');
  if (named !== undefined) return sure(named, 'The name of the file is of a patch on it.');
  const board = on(chosen);
  if (board !== undefined) return sure(board, 'The patch that you chose lies on it.');
  const unread = boards.find(b => plan.patches.some(p => p.board === b && !photosOf(records, p.code).length));
  return {
    aim: { board: unread ?? boards[0] },
    why: `Corner pieces are in the photo; ${carrierName(plan, unread ?? boards[0])} is the first without photos.`,
    isSure: false,
  };
}
