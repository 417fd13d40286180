import type { KeptRecipe } from '../recipe-book/index.ts';
import { A4, line, type Mark, type Page, type Sheets, TRUE_SIZE, text, wrapped } from './page.ts';

const LEFT = 15;
const WIDE = A4.w - 2 * LEFT;
const FOOT = A4.h - 16;
const WHAT_W = 46;

/** A recipe on paper, to hang over the bench: choices, steps with windows, each caution at its step, what it rests on. */
export function recipeCard({ name, card }: KeptRecipe, success: string): Sheets {
  const pages: Mark[][] = [[]];
  let y = 22;
  const room = (mm: number) => {
    if (y + mm <= FOOT) return;
    pages.push([]);
    y = 18;
  };
  const put = (mark: Mark) => pages[pages.length - 1].push(mark);
  const paragraph = (words: string, mm: number, { x = LEFT, bold = false, apart = mm * 1.75 } = {}) => {
    for (const one of wrapped(words, mm, LEFT + WIDE - x)) {
      room(apart);
      put(text(one, x, y, mm, { bold, most: LEFT + WIDE - x }));
      y += apart;
    }
  };
  paragraph(name, 5.2, { bold: true });
  y += 2;
  for (const { what, choice } of card.choices) {
    const lines = wrapped(choice, 2.5, WIDE - WHAT_W);
    room(4.6 * lines.length + 1);
    put(text(what, LEFT, y, 2.5, { bold: true, most: WHAT_W - 3 }));
    for (const one of lines) {
      put(text(one, LEFT + WHAT_W, y, 2.5, { most: WIDE - WHAT_W }));
      y += 4.6;
    }
    put(line(LEFT, y - 3.2, LEFT + WIDE, y - 3.2, 0.1, 170));
    y += 0.6;
  }
  y += 4;
  card.steps.forEach(({ action, instruction, window, cautions }, i) => {
    room(12);
    paragraph(`${i + 1}. ${action}`, 2.9, { bold: true });
    paragraph(`${instruction}${window ? ` ${window.charAt(0).toUpperCase()}${window.slice(1)}.` : ''}`, 2.5, {
      x: LEFT + 6,
    });
    for (const caution of cautions) paragraph(`! ${caution}`, 2.2, { x: LEFT + 6, bold: true });
    y += 1.6;
  });
  room(14);
  y += 2;
  paragraph('Why we believe it', 2.9, { bold: true });
  for (const words of [...card.evidence, success]) paragraph(words, 2.3, { apart: 4 });
  const made: Page[] = pages.map((marks, i) => ({
    ...A4,
    correct: TRUE_SIZE,
    marks: [
      ...marks,
      text(`${name} · page ${i + 1} of ${pages.length}`, LEFT, A4.h - 9, 2, { most: WIDE, grey: 90 }),
    ],
  }));
  return { title: name, pages: made };
}
