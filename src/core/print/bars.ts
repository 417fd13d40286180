import { bad, good, type Outcome } from '../outcome/index.ts';
import { mm, say } from '../say/index.ts';

/** What a printer makes of 100 mm when nothing is corrected, mm. */
export interface BarLengths {
  readonly barAcross: number;
  readonly barDown: number;
}

/** A printer that makes less than 80 or more than 120 mm of 100 was told to fit to the page. */
const LEAST = 80;
const MOST = 120;

/**
 * What is now known of a printer whose 100 mm bars measured `across` and `down` on a sheet that was already drawn by
 * what was known: the two multiply. 98 mm measured on a sheet drawn for 100 gives 98; 100 measured after that leaves it.
 */
export function corrected(
  known: BarLengths,
  measured: { across: number; down: number },
): Outcome<BarLengths> {
  const next = {
    barAcross: (known.barAcross * measured.across) / 100,
    barDown: (known.barDown * measured.down) / 100,
  };
  const isLikely = (v: number) => v >= LEAST && v <= MOST;
  if (isLikely(next.barAcross) && isLikely(next.barDown)) return good(next);
  return bad(
    'bars',
    say`Bars of ${mm(measured.across)} and ${mm(measured.down)} cannot be put right by drawing them longer or shorter.`,
    'Print the sheet at 100 %, without “fit to page”, and measure again in millimetres.',
  );
}
