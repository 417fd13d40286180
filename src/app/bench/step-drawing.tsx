import type { ReactNode } from 'react';
import type { Does } from '../../core/methods/index.ts';

const INK = 'var(--chakra-colors-fg)';
const line = {
  fill: 'none',
  stroke: INK,
  strokeWidth: 2.2,
  strokeLinecap: 'round',
  strokeLinejoin: 'round',
} as const;
const board = <path d="M10 74h180" {...line} strokeWidth={5} />;

/** Steps that only some methods have. */
const MORE_DRAWINGS: Partial<Record<Does, ReactNode>> = {
  base: (
    <>
      {board}
      <path d="M24 68h150" {...line} strokeWidth={6} />
      <path d="M60 58V34h44v24M82 34V12h26" {...line} />
    </>
  ),
  clear: (
    <>
      {board}
      <path d="M30 67h130" {...line} strokeWidth={3} />
      <path d="M20 20h22v34H20zM42 26h14" {...line} />
      <path
        d="M64 22l10-4M64 28l14 2M64 34l10 8M84 20l12-4M86 30l16 2M82 40l12 8"
        {...line}
        strokeDasharray="2 5"
      />
    </>
  ),
  finish: (
    <>
      {board}
      <path d="M30 68h130" {...line} strokeWidth={4} />
      <path d="M70 58c-12-18 10-34 28-26 22-8 38 12 26 26z" {...line} />
      <path d="M52 40c-6 4-6 12 0 16M146 40c6 4 6 12 0 16" {...line} />
    </>
  ),
  burnish: (
    <>
      {board}
      <path d="M30 67h130" {...line} strokeWidth={4} />
      <path d="M92 62c-10 0-14-8-8-12s16 0 16 6-4 6-8 6zM98 48l44-36" {...line} />
      <path d="M48 58l12-8M52 62h14" {...line} />
    </>
  ),
  soften: (
    <>
      {board}
      <path d="M34 68h120" {...line} strokeWidth={4} />
      <path d="M126 62l22-20 18 18-20 6z" {...line} />
      <path d="M150 50l10-10m-4 16l12-8" {...line} strokeDasharray="1 5" />
    </>
  ),
  soak: (
    <>
      <path d="M20 40v34h160V40" {...line} strokeWidth={3} />
      <path d="M20 48c10-7 16 7 27 0s16 7 27 0 16 7 27 0 16 7 27 0 16 7 27 0 12 4 25 0" {...line} />
      <path d="M50 64h100" {...line} strokeWidth={4} />
    </>
  ),
  mask: (
    <>
      {board}
      <path d="M30 60h22v10H30zM148 60h22v10h-22z" {...line} />
      <path d="M170 60c14-6 14-26 0-30a15 15 0 10 0 30M170 40a5 5 0 100 10" {...line} />
    </>
  ),
  pull: (
    <>
      {board}
      <path d="M30 69h58" {...line} strokeWidth={4} />
      <path d="M88 68c26-2 48-6 84-20" {...line} strokeDasharray="0" />
      <path d="M150 40l24 8-14 20" {...line} />
      <path d="M96 56l-18-2" {...line} />
    </>
  ),
  lift: (
    <>
      {board}
      <path d="M30 69h130" {...line} strokeWidth={4} />
      <path d="M30 46h130M30 46v12M160 46v12" {...line} strokeDasharray="5 4" />
      <path d="M95 38V12m-9 10l9-10 9 10" {...line} />
    </>
  ),
  stick: (
    <>
      {board}
      <path d="M34 66h60c30 0 50-8 66-26" {...line} strokeWidth={3} />
      <path d="M60 26v30m-9-9l9 9 9-9" {...line} />
      <path d="M40 60h4m12 0h4m12 0h4" {...line} />
    </>
  ),
  stamp: (
    <>
      {board}
      <path d="M78 60h44v8H78zM92 60V40h16v20M84 40h32c6-14-4-26-16-26s-22 12-16 26z" {...line} />
    </>
  ),
  offset: (
    <>
      <path d="M20 74h160M20 62h160" {...line} strokeWidth={3} />
      <path d="M34 48c30-8 100-8 132 0" {...line} />
      <path d="M100 10v26m-9-9l9 9 9-9" {...line} />
    </>
  ),
  trace: (
    <>
      {board}
      <path d="M30 69h130" {...line} strokeWidth={3} />
      <path d="M34 62h120" {...line} strokeDasharray="6 4" />
      <path d="M96 58l36-42 10 8-36 40-12 4z" {...line} />
    </>
  ),
  fuse: (
    <>
      {board}
      <path d="M30 68h130" {...line} strokeWidth={4} />
      <path d="M22 22h60l14 8-14 8H22zM40 38v16h14V38" {...line} />
      <path d="M106 30h16m-14 8l14 10m-14-26l14-10" {...line} />
      <path d="M120 62c6-5 10 5 16 0s10 5 16 0" {...line} />
    </>
  ),
  hang: (
    <>
      <path d="M14 16c50 10 120 10 172 0" {...line} />
      <path d="M58 20v8h10v-8M134 20v8h10v-8" {...line} />
      <path d="M54 28h96v44H54z" {...line} />
      <path d="M78 50h46" {...line} strokeDasharray="3 6" />
    </>
  ),
};

const DRAWINGS: Partial<Record<Does, ReactNode>> = {
  mark: (
    <>
      {board}
      <path d="M120 68l46-46 8 8-46 46-12 4z" {...line} />
      <path d="M40 66h52" {...line} strokeDasharray="3 6" />
    </>
  ),
  prepare: (
    <>
      {board}
      <path d="M60 58h70v12H60z" {...line} />
      <path d="M52 50c10-8 20 8 30 0s20 8 30 0 20 8 26 0" {...line} />
    </>
  ),
  coat: (
    <>
      {board}
      <path d="M30 69c20-7 60-7 90 0" {...line} strokeWidth={5} />
      <path d="M112 64l18-14 12 12-20 6zM134 46l34-34 12 12-34 34z" {...line} />
    </>
  ),
  place: (
    <>
      {board}
      <path d="M30 68h120" {...line} strokeWidth={4} />
      <path d="M26 54c30-10 90-10 128-2" {...line} />
      <path d="M90 12v28m-9-9l9 9 9-9" {...line} />
    </>
  ),
  wet: (
    <>
      {board}
      <path d="M30 66h120" {...line} strokeWidth={4} />
      <path
        d="M70 22c8 10 12 16 12 22a12 12 0 01-24 0c0-6 4-12 12-22zM116 14c6 8 9 12 9 17a9 9 0 01-18 0c0-5 3-9 9-17z"
        {...line}
      />
    </>
  ),
  rub: (
    <>
      {board}
      <path d="M30 66h120" {...line} strokeWidth={4} />
      <path d="M86 54a18 12 0 1118 0M92 40a8 5 0 108-2" {...line} />
      <path d="M150 58l12-6m-8 12l14 0" {...line} />
    </>
  ),
  peel: (
    <>
      {board}
      <path d="M30 68h70" {...line} strokeWidth={4} />
      <path d="M100 68c30 0 52-10 66-34" {...line} />
      <path d="M150 30l16 4 2-16" {...line} />
    </>
  ),
  heat: (
    <>
      {board}
      <path d="M40 66h110" {...line} strokeWidth={4} />
      <path d="M62 52c-8-8 8-14 0-24m34 24c-8-8 8-14 0-24m34 24c-8-8 8-14 0-24" {...line} />
    </>
  ),
  look: (
    <>
      {board}
      <path d="M50 66h100" {...line} strokeWidth={4} />
      <path d="M58 34c20-22 64-22 84 0-20 22-64 22-84 0z" {...line} />
      <circle cx="100" cy="34" r="9" {...line} />
    </>
  ),
};

/** Actions that are drawn like another because the hand does the same. */
const LIKE: Partial<Record<Does, Does>> = { cure: 'hang', wear: 'rub', tape: 'coat', other: 'look' };

const drawingOf = (does: Does): ReactNode =>
  DRAWINGS[does] ?? MORE_DRAWINGS[does] ?? drawingOf(LIKE[does] ?? 'look');

/** A small line drawing of a step, seen from the side. */
export function StepDrawing({ does }: { does: Does }) {
  return (
    <svg
      viewBox="0 0 200 84"
      width="100%"
      style={{ maxWidth: '20rem', marginTop: '1rem' }}
      aria-hidden="true"
    >
      {drawingOf(does)}
    </svg>
  );
}
