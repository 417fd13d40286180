import type { Effort } from '../../core/design/index.ts';
import { Box, Text } from '../ui/kit.tsx';

interface Props {
  readonly curve: readonly Effort[];
  /** Patches of the plan as it is. */
  readonly now: number;
  readonly costOf: (times: number) => number;
  readonly hoursOf: (times: number) => string;
  readonly onPatches?: (patches: number) => void;
}

const W = 520;
const H = 200;
const PAD = { left: 54, right: 24, top: 14, bottom: 64 };

/** The smallest difference the plan would notice against patches, with what they cost in money and work. */
export function CertaintyCurve({ curve, now, costOf, hoursOf, onPatches }: Props) {
  const most = Math.max(...curve.map(c => c.points)) * 1.1;
  const [least, last] = [curve[0].patches, curve.at(-1)!.patches];
  const x = (n: number) => PAD.left + ((n - least) / Math.max(1, last - least)) * (W - PAD.left - PAD.right);
  const y = (p: number) => PAD.top + (1 - p / most) * (H - PAD.top - PAD.bottom);
  const bottom = y(0);
  const step = most > 40 ? 20 : most > 16 ? 10 : most > 8 ? 4 : 2;
  const lines = Array.from({ length: Math.floor(most / step) + 1 }, (_, i) => i * step);
  const here = curve.find(c => c.patches === now);
  return (
    <Box mt="4" maxW="36rem">
      <Text fontWeight="600">Smallest difference a test at 5 % would notice, in points landed</Text>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        width="100%"
        role="img"
        aria-label={curve.map(c => `${c.patches} patches: ${c.points.toFixed(1)} points`).join('; ')}
      >
        {lines.map(p => (
          <g key={p}>
            <path
              d={`M${PAD.left} ${y(p)}H${W - PAD.right}`}
              stroke="var(--chakra-colors-border)"
              strokeWidth="0.8"
            />
            <text
              x={PAD.left - 8}
              y={y(p) + 4}
              textAnchor="end"
              style={{ fontSize: '13px' }}
              fill="var(--chakra-colors-fg)"
            >
              {p}
            </text>
          </g>
        ))}
        <path
          d={curve
            .map((c, i) => `${i ? 'L' : 'M'}${x(c.patches).toFixed(1)} ${y(c.points).toFixed(1)}`)
            .join('')}
          fill="none"
          stroke="var(--chakra-colors-tide-solid)"
          strokeWidth="2.5"
        />
        {curve.map(c => {
          const chosen = c.patches === now;
          const s = chosen ? 7 : 4;
          return (
            <g key={c.patches}>
              <rect
                x={x(c.patches) - s}
                y={y(c.points) - s}
                width={2 * s}
                height={2 * s}
                transform={`rotate(45 ${x(c.patches)} ${y(c.points)})`}
                fill={chosen ? 'var(--chakra-colors-buoy-solid)' : 'var(--chakra-colors-bg)'}
                stroke={chosen ? 'var(--chakra-colors-buoy-solid)' : 'var(--chakra-colors-tide-solid)'}
                strokeWidth="2"
              />
              {fits(curve, c, x) && (
                <>
                  <text
                    x={x(c.patches)}
                    y={bottom + 22}
                    textAnchor="middle"
                    style={{ fontSize: '13px' }}
                    fontWeight={chosen ? 700 : 400}
                    fill="var(--chakra-colors-fg)"
                  >
                    {c.patches}
                  </text>
                  <text
                    x={x(c.patches)}
                    y={bottom + 39}
                    textAnchor="middle"
                    style={{ fontSize: '12px' }}
                    fill="var(--chakra-colors-fg-muted)"
                  >
                    {costOf(c.times).toFixed(2)}
                  </text>
                  <text
                    x={x(c.patches)}
                    y={bottom + 55}
                    textAnchor="middle"
                    style={{ fontSize: '12px' }}
                    fill="var(--chakra-colors-fg-muted)"
                  >
                    {hoursOf(c.times)}
                  </text>
                </>
              )}
            </g>
          );
        })}
        <text x="0" y={bottom + 22} style={{ fontSize: '11px' }} fill="var(--chakra-colors-fg-muted)">
          patches
        </text>
        <text x="0" y={bottom + 39} style={{ fontSize: '11px' }} fill="var(--chakra-colors-fg-muted)">
          cost
        </text>
        <text x="0" y={bottom + 55} style={{ fontSize: '11px' }} fill="var(--chakra-colors-fg-muted)">
          work
        </text>
      </svg>
      {here ? (
        <Text>
          With {now} patches: {here.points.toFixed(1)} points.
          {onPatches && ' More patches see finer differences, and cost as shown.'}
        </Text>
      ) : (
        <Text>As it is, it cannot tell an effect from chance. Every mark on the line can.</Text>
      )}
    </Box>
  );
}

/** Whether a label has room between those before it that are shown; the plan's own always has. */
function fits(curve: readonly Effort[], c: Effort, x: (n: number) => number): boolean {
  let lastX = Number.NEGATIVE_INFINITY;
  for (const other of curve) {
    const shown = x(other.patches) - lastX > 58;
    if (other === c) return shown;
    if (shown) lastX = x(other.patches);
  }
  return false;
}
