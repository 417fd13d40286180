import QRCode from 'qrcode';
import { levelMarks, levelNames, type TrialPlan } from '../trial/index.ts';
import { A4, box, cutMarks, type Mark, type Page, type Sheets, TRUE_SIZE, text } from './page.ts';

/** What the QR of a patch says: its code, with the trial's id, so that any reader can find it again. */
export const qrWords = (plan: TrialPlan, code: string) => `WET TEST ${plan.id} ${code}`;

/** A QR code (ISO/IEC 18004, level M) as squares, `mm` wide without its quiet zone. */
export function qrMarks(words: string, x: number, y: number, mm: number): Mark[] {
  const { modules } = QRCode.create(words, { errorCorrectionLevel: 'M' });
  const cell = mm / modules.size;
  const marks: Mark[] = [];
  for (let row = 0; row < modules.size; row++)
    for (let col = 0; col < modules.size; col++) {
      if (!modules.data[row * modules.size + col]) continue;
      const [left, upper] = [x + col * cell, y + row * cell];
      marks.push({
        kind: 'shape',
        grey: 0,
        points: [
          [left, upper],
          [left + cell, upper],
          [left + cell, upper + cell],
          [left, upper + cell],
        ],
      });
    }
  return marks;
}

const LABEL = { w: 60, h: 26 };
const COLS = 3;
const ROWS = 10;

/** Labels for the backs of the pieces: code, QR, levels and what the trial is called. */
export function labelSheets(plan: TrialPlan): Sheets {
  const ordered = [...plan.patches].sort((a, b) => a.order - b.order);
  const perPage = COLS * ROWS;
  const pages = Array.from({ length: Math.ceil(ordered.length / perPage) }, (_, p): Page => {
    const marks = ordered.slice(p * perPage, (p + 1) * perPage).flatMap((patch, i) => {
      const x = 15 + (i % COLS) * LABEL.w;
      const y = 18 + Math.floor(i / COLS) * LABEL.h;
      return [
        ...cutMarks(x, y, LABEL.w, LABEL.h),
        ...qrMarks(qrWords(plan, patch.code), x + 3, y + 3, LABEL.h - 6),
        text(patch.code, x + 26, y + 8.5, 4, { bold: true, most: 31 }),
        text(levelMarks(patch).join(' '), x + 26, y + 13.5, 2.4, { bold: true, most: 31 }),
        ...levelNames(plan, patch)
          .slice(0, 3)
          .map((name, l) => text(name, x + 26, y + 16.8 + l * 2.7, 1.5, { most: 31 })),
      ];
    });
    return {
      ...A4,
      correct: TRUE_SIZE,
      marks: [
        text(`${plan.code} · ${plan.name}: labels for the back`, 15, 12, 3, { bold: true, most: 180 }),
        ...marks,
      ],
    };
  });
  return { title: `${plan.name}: labels`, pages };
}

/** A map of each board to glue on its back, with the code and the levels of every place; to scale where it fits. */
export function mapSheets(plan: TrialPlan): Sheets {
  const room = { w: A4.w - 30, h: A4.h - 70 };
  const scale = Math.min(1, room.w / plan.board.w, room.h / plan.board.h);
  const boards = Math.min(plan.board.count, 40);
  const pages = Array.from({ length: boards }, (_, board): Page => {
    const left = 15;
    const top = 40;
    const side = plan.patchMm * scale;
    const marks = plan.patches
      .filter(p => p.board === board)
      .flatMap(p => {
        const x = left + p.x * scale;
        const y = top + p.y * scale;
        const u = side / 40;
        return [
          ...box(x, y, side, side, 0.2),
          text(p.code, x + 2 * u, y + 8 * u, 3.6 * u, { bold: true, most: side - 4 * u }),
          text(levelMarks(p).join(' '), x + 2 * u, y + 17 * u, 4 * u, { most: side - 4 * u }),
          text(`no. ${p.order + 1}`, x + 2 * u, y + 24 * u, 2.6 * u, { grey: 70, most: side - 4 * u }),
        ];
      });
    const size = scale < 1 ? `drawn at ${Math.round(scale * 100)} %` : 'true to size';
    return {
      ...A4,
      correct: TRUE_SIZE,
      marks: [
        text(`${plan.code} · ${plan.name}`, 15, 18, 4, { bold: true, most: 180 }),
        text(
          `Map of board ${board + 1} of ${plan.board.count}, seen from the front, ${size}. Glue it to the back.`,
          15,
          25,
          2.6,
          { most: 180 },
        ),
        ...legend(plan),
        ...box(left, top, plan.board.w * scale, plan.board.h * scale, 0.4),
        ...marks,
      ],
    };
  });
  return { title: `${plan.name}: map`, pages };
}

const legend = (plan: TrialPlan): Mark[] => {
  const words = plan.factors
    .map(
      (f, i) =>
        `${'ABCDEFGH'[i]}: ${f.levels.map((_, l) => `${l + 1} ${levelNames(plan, { levels: plan.factors.map((__, k) => (k === i ? l : 0)) })[i]}`).join(', ')}`,
    )
    .join(' · ');
  return [text(words, 15, 31, 2.2, { most: 180 })];
};
