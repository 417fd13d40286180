import type { ReactNode } from 'react';
import type { Words } from '../../core/say/index.ts';
import type { Patch } from '../../core/trial/index.ts';
import { inLines } from './in-lines.ts';
import { useWriting } from './scale.ts';

const INK = 'var(--chakra-colors-fg)';
const QUIET = 'var(--chakra-colors-fg-muted)';

/** What the board shows at a stage: the drawing and the words for every patch. */
export interface BoardMarks {
  readonly what: string;
  readonly legend: Words;
  readonly draw: (patch: Patch) => ReactNode;
  readonly say: (patch: Patch) => Words;
}

/**
 * Lines of writing on a patch: a heading and up to three lines below, sized for the patch. On a small screen the heading
 * is as large as the patch has room for, and lines are broken anew where they would be too small to be read.
 */
export function PatchWriting({
  size,
  head,
  lines,
  strong,
}: {
  size: number;
  head: string;
  lines: readonly string[];
  strong?: string;
}) {
  const u = size / 40;
  const writing = useWriting();
  const headed = writing.headed(5.2 * u, MOST_HEAD * u);
  const meant = (lines.some(l => l.length > 15) ? 4 : 4.9) * u;
  const small = writing.small(meant);
  const rows = small > meant ? anew(lines, size, size - FOOT * u - headed, small, strong) : lines;
  const step = small > meant ? small * LEADING : 6.2 * u;
  return (
    <g>
      <text x={2.4 * u} y={headed + 2.2 * u} style={{ fontSize: `${headed}px`, fontWeight: 700 }} fill={INK}>
        {head}
      </text>
      {strong &&
        inRows(strong).map((row, i, rows) => (
          <text
            key={row}
            x={size / 2}
            y={size * (0.6 + (i - (rows.length - 1)) * 0.19)}
            style={{
              fontSize: `${(rows.length > 1 ? 7 : row.length > 6 ? 8.6 : 10.5) * u}px`,
              fontWeight: 700,
            }}
            textAnchor="middle"
            fill={INK}
          >
            {row}
          </text>
        ))}
      {rows.map((line, i) => (
        <text
          key={line + i}
          x={2.4 * u}
          y={(strong ? 31 * u : headed + 10.2 * u) + i * step}
          style={{ fontSize: `${small}px` }}
          fill={QUIET}
        >
          {line.length > 20 ? `${line.slice(0, 19)}…` : line}
        </text>
      ))}
    </g>
  );
}

/** A code of six letters in this size, on a patch of 40, just leaves its rim free. */
const MOST_HEAD = 9;

/** Room left free round the heading and above the hatch at a patch's foot, on a patch of 40. */
const FOOT = 7;
const LEADING = 1.15;
/** Mean width of a letter, in its size. */
const LETTER = 0.5;

/** Lines broken anew for a size of writing, as many as there is room for; below large writing there is none. */
function anew(
  lines: readonly string[],
  size: number,
  tall: number,
  small: number,
  strong?: string,
): string[] {
  if (strong) return [];
  const letters = Math.floor((0.92 * size) / (LETTER * small));
  const room = Math.floor(tall / (LEADING * small));
  return inLines(lines.join(' '), letters, room);
}

/** Up to three words a row, in at most three rows. */
function inRows(text: string): string[] {
  const words = text.split(' ');
  if (words.length <= 3) return [text];
  const per = words.length <= 4 ? 2 : words.length <= 6 ? 3 : 4;
  return Array.from({ length: Math.ceil(words.length / per) }, (_, i) =>
    words.slice(i * per, i * per + per).join(' '),
  );
}

/** A band across the top of a patch whose hatch, not its colour, tells the state. */
export function Hatch({ size, kind }: { size: number; kind: 'none' | 'dots' | 'lines' | 'cross' | 'full' }) {
  if (kind === 'none') return null;
  const u = size / 40;
  const y = size - 4.4 * u;
  const bits: ReactNode[] = [];
  if (kind === 'full') bits.push(<rect key="f" y={y} width={size} height={4.4 * u} fill={INK} />);
  for (let x = 1; x * u * 2.4 < size; x++) {
    const at = x * u * 2.4;
    if (kind === 'dots') bits.push(<circle key={x} cx={at} cy={y + 2.2 * u} r={0.55 * u} fill={INK} />);
    if (kind === 'lines' || kind === 'cross')
      bits.push(
        <path key={x} d={`M${at - 2 * u} ${y + 4.4 * u}L${at} ${y}`} stroke={INK} strokeWidth={0.5 * u} />,
      );
    if (kind === 'cross')
      bits.push(
        <path
          key={`c${x}`}
          d={`M${at - 2 * u} ${y}L${at} ${y + 4.4 * u}`}
          stroke={INK}
          strokeWidth={0.5 * u}
        />,
      );
  }
  return (
    <g>
      <path d={`M0 ${y}H${size}`} stroke={INK} strokeWidth={0.3 * u} />
      {bits}
    </g>
  );
}
