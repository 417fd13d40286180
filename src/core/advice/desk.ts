import { patchStatus, progressOf, type Trialled } from '../progress/index.ts';
import {
  type Batch,
  batchesLeft,
  batchOf,
  brushOf,
  lastBrush,
  PLATE,
  placeOf,
  placesOf,
  type Working,
  workingWith,
} from '../schedule/index.ts';
import { goFor, handled, handsOnMin, type Link, laterIsFine, waitAfter, wholeOf } from '../steps/index.ts';

const MIN = 60_000;

/** One action still to be done on a piece, as far as time and tools go; times in ms. */
export interface DeskLink {
  readonly link: Link;
  readonly hands: number;
  readonly gap?: {
    readonly min: number;
    readonly aim: number;
    readonly max: number;
    readonly later: boolean;
  };
  readonly brush?: string;
  readonly batch?: Batch;
  readonly place?: string;
  readonly marks: boolean;
  /** Lines it is done for at once, its own among them; none where it is done by itself. */
  readonly go: readonly number[];
  /** It happens to the piece: when the last of its lines is as far. */
  readonly whole: boolean;
}

/** One piece of a trial with all that is still to be done on it. */
export interface DeskLine {
  readonly trial: number;
  readonly code: string;
  /** Its place in the planned order of work. */
  readonly order: number;
  readonly links: readonly DeskLink[];
  readonly begun: boolean;
}

/** When the next action of a piece may, should and must begin; without a window it may at any time. */
export interface Due {
  readonly opens: number;
  readonly aim: number;
  readonly closes: number;
  /** Whether later within the window is as good as the aim. */
  readonly later: boolean;
}

/** All that lies on the bench, of every trial of the same hands, as it stands at one moment. */
export interface Desk {
  readonly now: number;
  readonly trials: readonly Trialled[];
  readonly lines: readonly DeskLine[];
  /** When each line's next action is due; nothing where it has no window. */
  readonly due: readonly (Due | undefined)[];
  readonly brush: string | undefined;
  readonly batches: readonly { readonly key: string; readonly until: number; readonly left: number }[];
  /** What each line lies in now. */
  readonly lying: readonly (string | undefined)[];
  /** The line hands stay with until its best moment: it is being burnished, ironed or pressed. */
  readonly held: number | undefined;
  /** How many pieces each place holds. */
  readonly holds: Readonly<Record<string, number>>;
  readonly wash: number;
}

/**
 * The bench of these trials at a moment (ms): one line for every piece that is not finished or written off.
 *
 * @example deskOf([{ plan, records: [] }], working, start).lines.length; // => 12
 */
export function deskOf(trials: readonly Trialled[], working: Working, now: number): Desk {
  const { washMin, ovenHolds } = workingWith(working, []);
  const lines: DeskLine[] = [];
  const due: (Due | undefined)[] = [];
  const lying: (string | undefined)[] = [];
  let oven = ovenHolds;
  let held: number | undefined;
  trials.forEach(({ plan, records }, trial) => {
    const progress = progressOf(plan, records);
    oven = Math.min(oven, plan.design.loadSize ?? oven);
    const place = new Map<string, number>();
    const open = progress.lines.filter(line => patchStatus(line, progress.airs, now).next);
    open.forEach((line, i) => {
      place.set(line.patch.code, lines.length + i);
    });
    for (const line of open) {
      const status = patchStatus(line, progress.airs, now);
      const w = status.window;
      const links = line.chain
        .filter((_, i) => line.doneAt[i] === undefined)
        .map((link): DeskLink => {
          const { step } = link;
          const { hands, wait } = handled(
            step,
            handsOnMin(step, line),
            waitAfter(step, line.settings, progress.air, line.plannedMin),
          );
          const [brush, batch, lies] = [
            brushOf(step, line),
            batchOf(step, line),
            placeOf(step, line, plan, working),
          ];
          return {
            link,
            hands: hands * MIN,
            marks: step.does === 'mark',
            go: goFor(step, line).flatMap(code => place.get(code) ?? []),
            whole: wholeOf(step, line) !== undefined,
            ...(wait
              ? {
                  gap: {
                    min: wait.min * MIN,
                    aim: wait.aim * MIN,
                    max: wait.max * MIN,
                    later: laterIsFine(step, line.settings),
                  },
                }
              : {}),
            ...(brush ? { brush } : {}),
            ...(batch ? { batch } : {}),
            ...(lies ? { place: lies } : {}),
          };
        });
      const begun = line.chain.some((l, i) => l.step.does !== 'mark' && line.doneAt[i] !== undefined);
      lines.push({
        trial,
        code: line.patch.code,
        order: line.patch.order,
        links,
        begun,
      });
      if (w && status.last?.step.holds && now < w.aim) held = lines.length - 1;
      due.push(w && { ...w, later: Boolean(status.patient) });
      lying.push(begun && status.last ? placeOf(status.last.step, line, plan, working) : undefined);
    }
  });
  return {
    now,
    trials,
    lines,
    due,
    lying,
    held,
    brush: lastBrush(trials, now),
    batches: batchesLeft(trials, now).map(m => ({
      key: m.batch.key,
      until: m.until,
      left: m.batch.serves - m.used,
    })),
    holds: { oven, [PLATE]: 1, ...placesOf(working) },
    wash: washMin * MIN,
  };
}
