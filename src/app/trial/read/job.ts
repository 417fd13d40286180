import type { Problem } from '../../../core/outcome/index.ts';
import type { WearTest } from '../../../core/trial/index.ts';
import type { Aim } from '../../../workers/index.ts';

/** How photos of one go were taken, as the maker says. */
export interface Taken {
  /** `bare`: the ground before anything was laid on it, lit from the side. */
  readonly stage: 'wet' | 'dry' | 'bare';
  readonly worn?: WearTest;
  /** Nobody said whether it was worn: the records do. */
  readonly isProposed?: boolean;
  /** After which round; what the records say where nobody does. */
  readonly roundOf: (code: string) => number;
}

/** One photo on its way from file to reading. */
export interface Job {
  readonly id: string;
  readonly name: string;
  readonly file: Blob;
  readonly taken: Taken;
  readonly takenAt: string | null;
  readonly simulated: boolean;
  /** No other photo was chosen with it. */
  readonly isAlone?: boolean;
  readonly thumbnail?: Blob;
  readonly size?: { readonly w: number; readonly h: number };
  /** What it is taken to be of, and why. */
  readonly aim?: Aim;
  readonly why?: string;
  /** Said to be dry, but by the records it was still wet when it was taken, or it looks so. */
  readonly isWet?: 'by time' | 'by look';
  /** By the records it was worn by this when it was taken (`none`: not yet), which is not what was said. */
  readonly wornBy?: WearTest | 'none';
  /** The maker was asked, and says that it was dry. */
  readonly isSurelyDry?: boolean;
  readonly state: 'looking' | 'asking' | 'waiting' | 'reading' | 'done' | 'refused' | 'cancelled';
  readonly share: number;
  readonly word: string;
  readonly problem?: Problem;
  /** Of a board: the patches that could not be read. */
  readonly unread?: readonly { readonly code: string; readonly problem: Problem }[];
  /** A photo that is among the records already: only its reading is added. */
  readonly kept?: string;
}
