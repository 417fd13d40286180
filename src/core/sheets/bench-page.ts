import type { KeptRecipe } from '../recipe-book/index.ts';
import { say } from '../say/index.ts';
import { flow, LEFT } from './flow.ts';
import type { Sheets } from './page.ts';

/** Letters are tried from the largest on, mm: what is read at arm's length is no smaller than the least with its words. */
const SIZES = Array.from({ length: 13 }, (_, i) => 5 - 0.25 * i);
const LEAST_WITH_WORDS = 3;

/**
 * A recipe on one page to hang over the bench, in letters as large as fit: what to have at hand, each step with its window
 * and its cautions. A long one says its steps in their first words only; no caution is ever left out.
 */
export function benchPage({ name, card }: KeptRecipe, success: string): Sheets {
  const tries = [
    ...SIZES.filter(mm => mm >= LEAST_WITH_WORDS).map(mm => ({ mm, withWords: true })),
    ...SIZES.map(mm => ({ mm, withWords: false })),
  ];
  for (const { mm, withWords } of tries) {
    const pages = laidOut({ name, card }, success, mm, withWords);
    if (pages.length === 1) return { title: `${name}, over the bench`, pages };
  }
  return { title: `${name}, over the bench`, pages: laidOut({ name, card }, success, SIZES.at(-1)!, false) };
}

function laidOut(
  { name, card }: Pick<KeptRecipe, 'name' | 'card'>,
  success: string,
  mm: number,
  withWords: boolean,
) {
  const { space, paragraph, pages } = flow();
  const apart = 1.45 * mm;
  paragraph(name, 1.6 * mm, { bold: true, apart: 2 * mm });
  paragraph(success, 0.75 * mm, { apart: 1.1 * mm });
  space(0.6 * mm);
  for (const { what, choice } of card.choices)
    paragraph(say`${what}: ${choice}`, 0.8 * mm, { apart: 1.2 * mm });
  space(mm);
  const x = LEFT + 1.6 * mm;
  card.steps.forEach(({ action, instruction, window, cautions }, i) => {
    paragraph(say`${i + 1}. ${action}${window ? say`: ${window}` : ''}`, mm, { bold: true, apart });
    if (withWords) paragraph(instruction, 0.8 * mm, { x, apart: 1.2 * mm });
    for (const caution of cautions) paragraph(`! ${caution}`, 0.8 * mm, { x, bold: true, apart: 1.2 * mm });
    space(0.5 * mm);
  });
  return pages(name);
}
