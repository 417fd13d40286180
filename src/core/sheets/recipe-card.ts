import type { KeptRecipe } from '../recipe-book/index.ts';
import { say, upper } from '../say/index.ts';
import { flow, LEFT, WIDE } from './flow.ts';
import { line, type Sheets, text, wrapped } from './page.ts';

const WHAT_W = 46;

/** A recipe on paper, to hang over the bench: choices, steps with windows, each caution at its step, what it rests on. */
export function recipeCard({ name, card }: KeptRecipe, success: string): Sheets {
  const { y, space, room, put, paragraph, pages } = flow();
  paragraph(name, 5.2, { bold: true });
  space(2);
  for (const { what, choice } of card.choices) {
    const lines = wrapped(choice, 2.5, WIDE - WHAT_W);
    room(4.6 * lines.length + 1);
    put(text(what, LEFT, y(), 2.5, { bold: true, most: WHAT_W - 3 }));
    for (const one of lines) {
      put(text(one, LEFT + WHAT_W, y(), 2.5, { most: WIDE - WHAT_W }));
      space(4.6);
    }
    put(line(LEFT, y() - 3.2, LEFT + WIDE, y() - 3.2, 0.1, 170));
    space(0.6);
  }
  space(4);
  card.steps.forEach(({ action, instruction, window, cautions }, i) => {
    room(12);
    paragraph(`${i + 1}. ${action}`, 2.9, { bold: true });
    paragraph(say`${instruction}${window ? say` ${upper(window)}.` : ''}`, 2.5, {
      x: LEFT + 6,
    });
    for (const caution of cautions) paragraph(`! ${caution}`, 2.2, { x: LEFT + 6, bold: true });
    space(1.6);
  });
  room(14);
  space(2);
  paragraph('Why we believe it', 2.9, { bold: true });
  for (const words of [...card.evidence, success]) paragraph(words, 2.3, { apart: 4 });
  return { title: name, pages: pages(name) };
}
