import type { Words } from '../say/index.ts';
import type { Group } from '../wall/index.ts';
import { A4, type Mark, type Page, type Sheets, TRUE_SIZE, text } from './page.ts';

const EDGE = 15;
const GAP = 5;
const WORDS = 8;
const HEAD = 9;

/**
 * The wall on paper: groups under their names, all patches at one scale, true to size where four fit beside each other.
 * `images`: the straightened photos by their reading; `say`: the words under a patch, two lines.
 */
export function wallSheets(
  title: string,
  groups: readonly Group[],
  images: Readonly<Record<string, Uint8Array>>,
  say: (patch: Group['patches'][number]) => readonly [Words, Words],
): Sheets {
  const all = groups.flatMap(g => g.patches);
  const widest = Math.max(1, ...all.map(p => p.size.w));
  const room = A4.w - 2 * EDGE;
  const scale = Math.min(1, (room - 3 * GAP) / 4 / widest);
  const pages: Mark[][] = [];
  let marks: Mark[] = [];
  let y = Number.POSITIVE_INFINITY;
  const turn = () => {
    marks = [text(title, EDGE, EDGE, 3.4, { bold: true, most: room })];
    pages.push(marks);
    y = EDGE + 6;
  };
  for (const { name, patches } of groups) {
    let x = EDGE;
    let tall = 0;
    let isNamed = false;
    for (const p of patches) {
      const [w, h] = [p.size.w * scale, p.size.h * scale];
      if (x > EDGE && x + w > A4.w - EDGE) {
        x = EDGE;
        y += tall + WORDS + GAP;
        tall = 0;
      }
      const needed = (isNamed ? 0 : HEAD) + h + WORDS;
      if (y + needed > A4.h - EDGE) {
        turn();
        x = EDGE;
        tall = 0;
        isNamed = false;
      }
      if (!isNamed) {
        marks.push(text(name, EDGE, y + 5, 2.8, { bold: true, most: room }));
        y += HEAD;
        isNamed = true;
      }
      if (images[p.record]) marks.push({ kind: 'image', x, y, w, h, key: p.record });
      say(p).forEach((words, i) => {
        marks.push(text(words, x, y + h + 3.2 + i * 3.2, 1.7, { bold: i === 0, most: w }));
      });
      x += w + GAP;
      tall = Math.max(tall, h);
    }
    y += tall + WORDS + GAP;
  }
  if (!pages.length) turn();
  return { title, pages: pages.map((own): Page => ({ ...A4, correct: TRUE_SIZE, marks: own })), images };
}
