import type { ReactNode } from 'react';

const INK = 'var(--chakra-colors-fg)';
const line = {
  fill: 'none',
  stroke: INK,
  strokeWidth: 2.2,
  strokeLinecap: 'round',
  strokeLinejoin: 'round',
} as const;
const board = <path d="M10 74h180" {...line} strokeWidth={5} />;

const DRAWINGS: Record<string, ReactNode> = {
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

/** Steps that are drawn like another: the same movement with other materials. */
const LIKE: Record<string, string> = {
  base: 'coat',
  'first-clear': 'coat',
  finish: 'coat',
  stamp: 'place',
  'print-down': 'place',
  stick: 'place',
  burnish: 'rub',
  soften: 'rub',
  trace: 'mark',
  soak: 'wet',
  mask: 'prepare',
  pull: 'peel',
  lift: 'peel',
  fuse: 'heat',
  cure: 'look',
  hang: 'look',
};

const drawingOf = (step: string): ReactNode => {
  if (step.startsWith('wear-')) return DRAWINGS.rub;
  return DRAWINGS[step] ?? DRAWINGS[LIKE[step] ?? 'look'];
};

/** A small line drawing of a step, seen from the side. */
export function StepDrawing({ step }: { step: string }) {
  return (
    <svg
      viewBox="0 0 200 84"
      width="100%"
      style={{ maxWidth: '20rem', marginTop: '1rem' }}
      aria-hidden="true"
    >
      {drawingOf(step)}
    </svg>
  );
}
