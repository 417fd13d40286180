import { Box } from '@chakra-ui/react';
import type { KeyboardEvent, ReactNode } from 'react';
import type { Patch, TrialPlan } from '../../core/trial/index.ts';
import { length } from '../../core/units/index.ts';
import { useSettings } from '../shell/settings.tsx';

interface Props {
  readonly plan: Pick<TrialPlan, 'board' | 'patches' | 'patchMm'>;
  readonly selected?: string;
  readonly onSelect?: (code: string) => void;
  /** What stands on a patch, drawn in mm inside a patchMm × patchMm square. */
  readonly draw: (patch: Patch) => ReactNode;
  /** The patch in words, for those who do not see the drawing. */
  readonly say: (patch: Patch) => string;
  readonly name: string;
}

const GAP = 16;
const FRAME = 9;

/** The boards drawn true to scale with what belongs on every patch; arrow keys go from patch to patch. */
export function BoardDrawing({ plan, selected, onSelect, draw, say, name }: Props) {
  const { settings } = useSettings();
  const { w, h, count } = plan.board;
  const across = Math.min(count, w > h * 1.4 ? 1 : 2);
  const down = Math.ceil(count / across);
  const width = across * w + (across - 1) * GAP + FRAME;
  const height = down * (h + GAP) - GAP + FRAME;
  const at = (board: number) => ({
    x: (board % across) * (w + GAP),
    y: Math.floor(board / across) * (h + GAP),
  });
  const centre = (p: Patch) => ({ x: at(p.board).x + p.x, y: at(p.board).y + p.y });
  const walk = (event: KeyboardEvent, from: Patch) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way) return;
    event.preventDefault();
    const to = nearest(plan.patches, from, way[0], way[1], centre);
    if (!to) return;
    onSelect?.(to.code);
    const group = event.currentTarget.parentElement;
    requestAnimationFrame(() => group?.querySelector<SVGGElement>(`[data-code="${to.code}"]`)?.focus());
  };
  return (
    <Box
      asChild
      w="100%"
      maxH={{ base: '46vh', lg: 'calc(100vh - 11rem)' }}
      css={{
        '& .patch': { cursor: onSelect ? 'pointer' : 'default' },
        '& .patch:focus-visible': { outline: 'none' },
        '& .patch:focus-visible .rim': { stroke: 'var(--chakra-colors-tide-solid)', strokeWidth: 2.4 },
      }}
    >
      <svg viewBox={`-1 -1 ${width + 1} ${height + 1}`} role="group" aria-label={name} fontFamily="inherit">
        {Array.from({ length: count }, (_, board) => (
          <g key={board} transform={`translate(${at(board).x} ${at(board).y})`}>
            <rect
              width={w}
              height={h}
              fill="var(--chakra-colors-bg-panel)"
              stroke="var(--chakra-colors-border-emphasized)"
              strokeWidth="0.6"
            />
            <text
              x={w / 2}
              y={h + 6.5}
              style={{ fontSize: '5px' }}
              textAnchor="middle"
              fill="var(--chakra-colors-fg-muted)"
            >
              {count > 1 ? `Board ${board + 1} · ` : ''}
              {length(w, settings.system)} × {length(h, settings.system)}
            </text>
          </g>
        ))}
        {plan.patches.map(patch => {
          const { x, y } = centre(patch);
          const chosen = patch.code === selected;
          return (
            <g
              key={patch.code}
              className="patch"
              data-code={patch.code}
              transform={`translate(${x} ${y})`}
              role="button"
              tabIndex={onSelect ? (chosen || (!selected && patch === plan.patches[0]) ? 0 : -1) : undefined}
              aria-pressed={chosen}
              aria-label={say(patch)}
              onClick={() => onSelect?.(patch.code)}
              onKeyDown={event => {
                if (event.key === 'Enter' || event.key === ' ') {
                  event.preventDefault();
                  onSelect?.(patch.code);
                } else walk(event, patch);
              }}
            >
              <rect
                className="rim"
                x="-1.6"
                y="-1.6"
                width={plan.patchMm + 3.2}
                height={plan.patchMm + 3.2}
                fill="none"
                stroke={chosen ? 'var(--chakra-colors-buoy-solid)' : 'transparent'}
                strokeWidth="2"
              />
              <rect
                width={plan.patchMm}
                height={plan.patchMm}
                fill="var(--chakra-colors-bg)"
                stroke="var(--chakra-colors-border-emphasized)"
                strokeWidth="0.35"
              />
              {draw(patch)}
            </g>
          );
        })}
      </svg>
    </Box>
  );
}

function nearest(
  patches: readonly Patch[],
  from: Patch,
  dx: number,
  dy: number,
  centre: (p: Patch) => { x: number; y: number },
) {
  const a = centre(from);
  const scored = patches.flatMap(to => {
    const b = centre(to);
    const along = (b.x - a.x) * dx + (b.y - a.y) * dy;
    const off = Math.abs((b.x - a.x) * dy) + Math.abs((b.y - a.y) * dx);
    return to === from || along <= 0.5 ? [] : [{ to, score: along + 3 * off }];
  });
  return scored.sort((p, q) => p.score - q.score)[0]?.to;
}
