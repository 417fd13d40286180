import { type KeyboardEvent, type ReactNode, useRef } from 'react';
import { mm, type Words, write } from '../../core/say/index.ts';
import { carrierOf, cornersOf, type Patch, sizeOf, type TrialPlan } from '../../core/trial/index.ts';

import { Box } from '../ui/kit.tsx';
import { useSettings, useWrite } from '../ui/settings.tsx';
import { layoutOf, nearest } from './geometry.ts';
import { ScaleProvider, useScaleOf, useWriting } from './scale.ts';
import { type Place, useArranging } from './use-arranging.ts';

interface Props {
  readonly plan: Pick<TrialPlan, 'board' | 'pieces' | 'patches' | 'patchMm' | 'patchTallMm'>;
  readonly selected?: string;
  readonly onSelect?: (code: string) => void;
  /** What stands on a patch, drawn in mm from its top left. */
  readonly draw: (patch: Patch) => ReactNode;
  /** The patch in words, for those who do not see the drawing. */
  readonly say: (patch: Patch) => Words;
  readonly name: string;
  /** With these two, patches can be moved and swapped by drag and by keyboard. */
  readonly onMove?: (code: string, to: Place) => void;
  readonly onSwap?: (code: string, other: string) => void;
  /** Leaves room below it on the page. */
  readonly low?: boolean;
}

/** The boards drawn true to scale with what belongs on every patch; arrow keys go from patch to patch. */
export function BoardDrawing({ plan, selected, onSelect, draw, say, name, onMove, onSwap, low }: Props) {
  const layout = layoutOf(plan);
  const written = useWrite();
  const { w, h } = sizeOf(plan);
  const svg = useRef<SVGSVGElement>(null);
  const [across, down] = [layout.width + 4, layout.height + 3];
  const scale = useScaleOf(svg, across, down);
  const arranging = useArranging(layout, plan.patches, { w, h }, { onMove, onSwap });
  const walk = (event: KeyboardEvent, from: Patch) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!way) return;
    event.preventDefault();
    const to = nearest(plan.patches, from, way[0], way[1], layout.of);
    if (!to) return;
    onSelect?.(to.code);
    const group = event.currentTarget.parentElement;
    requestAnimationFrame(() => group?.querySelector<SVGGElement>(`[data-code="${to.code}"]`)?.focus());
  };
  return (
    <Box
      asChild
      w="100%"
      maxH={{ base: '46vh', lg: `calc(100vh - ${low ? '19rem' : '11rem'})` }}
      userSelect={arranging.active ? 'none' : undefined}
      css={{
        '& .patch': {
          cursor: arranging.active ? 'grab' : onSelect ? 'pointer' : 'default',
          touchAction: arranging.active ? 'none' : undefined,
        },
        '& .patch:focus-visible': { outline: 'none' },
        '& .patch:focus-visible .rim': { stroke: 'var(--chakra-colors-tide-solid)', strokeWidth: 2.4 },
      }}
    >
      <svg ref={svg} viewBox={`-2 -2 ${across} ${down}`} role="group" aria-label={name} fontFamily="inherit">
        <ScaleProvider value={scale}>
          {Array.from({ length: plan.board.count }, (_, board) => (
            <Carrier key={board} plan={plan} number={board} {...layout.at(board)} />
          ))}
          <Strips plan={plan} at={layout.at} />
          {plan.patches.map(patch => {
            const { x, y } = layout.of(patch);
            const chosen = patch.code === selected;
            const isHeld = arranging.held === patch.code;
            return (
              <g
                key={patch.code}
                className="patch"
                data-code={patch.code}
                transform={`translate(${x} ${y})`}
                role="button"
                tabIndex={
                  onSelect ? (chosen || (!selected && patch === plan.patches[0]) ? 0 : -1) : undefined
                }
                aria-pressed={chosen}
                aria-label={
                  isHeld
                    ? `${written(say(patch))}. Picked up: choose another patch and press Enter to swap`
                    : written(say(patch))
                }
                opacity={arranging.ghost?.code === patch.code ? 0.4 : 1}
                onClick={() => !arranging.wasDrag() && onSelect?.(patch.code)}
                {...arranging.pointer(patch)}
                onKeyDown={event => {
                  if (arranging.key(event, patch)) return;
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
                  width={w + 3.2}
                  height={h + 3.2}
                  fill="none"
                  stroke={chosen || isHeld ? 'var(--chakra-colors-buoy-solid)' : 'transparent'}
                  strokeWidth="2"
                  strokeDasharray={isHeld ? '4 2.5' : undefined}
                />
                <rect
                  width={w}
                  height={h}
                  fill="var(--chakra-colors-bg)"
                  stroke="var(--chakra-colors-border-emphasized)"
                  strokeWidth="0.35"
                />
                {draw(patch)}
              </g>
            );
          })}
        </ScaleProvider>
        {arranging.ghost && (
          <rect
            x={arranging.ghost.x}
            y={arranging.ghost.y}
            width={w}
            height={h}
            fill="var(--chakra-colors-buoy-muted)"
            fillOpacity="0.6"
            stroke="var(--chakra-colors-buoy-solid)"
            strokeWidth="1.2"
            pointerEvents="none"
          />
        )}
      </svg>
    </Box>
  );
}

/** A board or a piece in outline with its size. */
function Carrier({ plan, number, x, y }: { plan: Props['plan']; number: number; x: number; y: number }) {
  const { settings } = useSettings();
  const { count, onePiece } = plan.board;
  const carrier = carrierOf(plan, number);
  const { w, h, outline, name, under } = carrier;
  // What lies there already, beside or below.
  const taken = [...(carrier.taken ?? []), ...(under ?? [])];
  const corners = cornersOf(carrier);
  const sized = useWriting().headed(5, 8);
  const look = {
    fill: 'var(--chakra-colors-bg-panel)',
    stroke: 'var(--chakra-colors-border-emphasized)',
    strokeWidth: 0.6,
  };
  const size = write(mm(w, { by: h }), settings);
  const words = name
    ? `${name} · ${size}`
    : onePiece && count > 1
      ? String(number + 1)
      : `${count > 1 ? `Board ${number + 1} · ` : ''}${size}`;
  return (
    <g transform={`translate(${x} ${y})`}>
      {corners ? (
        <polygon points={corners.map(c => `${c.x},${c.y}`).join(' ')} {...look} />
      ) : outline === 'ellipse' ? (
        <ellipse cx={w / 2} cy={h / 2} rx={w / 2} ry={h / 2} {...look} />
      ) : (
        <rect width={w} height={h} {...look} />
      )}
      {taken.map(t => (
        <g key={t.code} transform={`translate(${t.x} ${t.y})`}>
          <rect
            width={t.w}
            height={t.h}
            fill="none"
            stroke="var(--chakra-colors-fg-muted)"
            strokeWidth="0.5"
            strokeDasharray="1.5 1.5"
          />
          <path
            d={`M0 0L${t.w} ${t.h}M${t.w} 0L0 ${t.h}`}
            stroke="var(--chakra-colors-border)"
            strokeWidth="0.4"
          />
          <text
            x={t.w / 2}
            y={t.h / 2 + 1.6}
            style={{ fontSize: '4.4px' }}
            textAnchor="middle"
            fill="var(--chakra-colors-fg-muted)"
          >
            {t.code}
          </text>
        </g>
      ))}
      <text
        x={w / 2}
        y={h + 1.5 + sized}
        style={{ fontSize: `${sized}px` }}
        textAnchor="middle"
        fill="var(--chakra-colors-fg-muted)"
      >
        {words}
      </text>
    </g>
  );
}

/** Strips of a board as bands behind their patches. */
function Strips({ plan, at }: { plan: Props['plan']; at: (board: number) => { x: number; y: number } }) {
  const strips = new Map<number, Patch[]>();
  for (const p of plan.patches)
    if (p.strip !== undefined) strips.set(p.strip, [...(strips.get(p.strip) ?? []), p]);
  return (
    <>
      {[...strips].map(([strip, patches]) => {
        const origin = at(patches[0].board);
        const left = Math.min(...patches.map(p => p.x)) - 4;
        const right = Math.max(...patches.map(p => p.x)) + plan.patchMm + 4;
        return (
          <rect
            key={strip}
            x={origin.x + left}
            y={origin.y + 1.5}
            width={right - left}
            height={carrierOf(plan, patches[0].board).h - 3}
            fill="var(--chakra-colors-tide-subtle)"
            stroke="var(--chakra-colors-tide-solid)"
            strokeWidth="0.5"
            strokeDasharray="3 2"
          />
        );
      })}
    </>
  );
}
