import { unitFor } from '../../core/say/index.ts';
import { cornersOf, MOST_CORNERS, type Outline, type Piece } from '../../core/trial/index.ts';
import { Choose } from '../ui/choose.tsx';
import { Box, Button, Flex, Text } from '../ui/kit.tsx';
import { NumberChoice } from '../ui/number-choice.tsx';
import { useSettings } from '../ui/settings.tsx';

type Outlined = Pick<Piece, 'w' | 'h' | 'outline' | 'corners'>;
type Corner = NonNullable<Piece['corners']>[number];

/** What an outline begins as, before its corners are set. */
const TAPERED: Corner[] = [
  { x: 0.15, y: 0 },
  { x: 0.85, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
];

/** What runs round a board: a rectangle, an oval, or corners that are set one by one. */
export function OutlineEditor({
  of,
  name,
  onChange,
}: {
  of: Outlined;
  /** What it is the outline of, for those who do not see where it stands. */
  name: string;
  onChange: (part: Pick<Outlined, 'outline' | 'corners'>) => void;
}) {
  return (
    <Choose
      label={name ? `Outline of ${name}` : 'Outline'}
      width="11rem"
      value={of.outline}
      options={[
        ['rectangle', 'rectangle'],
        ['ellipse', 'oval or round'],
        ['corners', 'by its corners'],
      ]}
      onChange={v =>
        onChange({
          outline: v as Outline,
          corners: v === 'corners' ? (of.corners ?? TAPERED) : undefined,
        })
      }
    />
  );
}

/** The corners of an outline by number, in turn, with the outline drawn beside them. */
export function CornersEditor({
  of,
  onChange,
}: {
  of: Outlined;
  onChange: (part: Pick<Outlined, 'corners'>) => void;
}) {
  const { settings } = useSettings();
  const corners = of.corners;
  const drawn = cornersOf(of);
  if (!corners || !drawn) return null;
  const unit = unitFor('length', settings.system);
  const set = (i: number, part: Partial<Corner>) =>
    onChange({ corners: corners.map((c, k) => (k === i ? { ...c, ...part } : c)) });
  const share = (mm: number, side: number) => Math.min(1, Math.max(0, mm / side));
  const between = (a: Corner, b: Corner) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
  const size = Math.max(of.w, of.h) / 14;
  return (
    <Flex gap="4" mt="3" wrap="wrap" align="start">
      <Box w="10rem" flexShrink="0">
        <svg
          viewBox={`${-size} ${-size} ${of.w + 2 * size} ${of.h + 2 * size}`}
          role="img"
          aria-label="The outline with its corners numbered"
        >
          <polygon
            points={drawn.map(c => `${c.x},${c.y}`).join(' ')}
            fill="var(--chakra-colors-bg-panel)"
            stroke="var(--chakra-colors-fg)"
            strokeWidth={size / 6}
          />
          {drawn.map((c, i) => (
            <text
              key={i}
              x={c.x + (c.x > of.w / 2 ? -size * 0.8 : size * 0.8)}
              y={c.y + (c.y > of.h / 2 ? -size * 0.4 : size)}
              fontSize={size}
              textAnchor="middle"
              fill="var(--chakra-colors-fg)"
            >
              {i + 1}
            </text>
          ))}
        </svg>
      </Box>
      <Box flex="1" minW="15rem">
        <Text color="fg.muted" mb="1">
          Measured from the left and from the top of the piece.
        </Text>
        {corners.map((c, i) => (
          <Flex key={i} gap="2" align="end" mb="2">
            <Box w="7rem">
              <NumberChoice
                label={`${i + 1}: left, ${unit.name}`}
                value={Math.round(c.x * of.w * 10) / 10}
                factor={unit.per}
                step={1}
                limit="placeMm"
                onChange={v => set(i, { x: share(v, of.w) })}
              />
            </Box>
            <Box w="7rem">
              <NumberChoice
                label={`${i + 1}: top, ${unit.name}`}
                value={Math.round(c.y * of.h * 10) / 10}
                factor={unit.per}
                step={1}
                limit="placeMm"
                onChange={v => set(i, { y: share(v, of.h) })}
              />
            </Box>
            {corners.length > 3 && (
              <Button
                variant="ghost"
                minH="44px"
                aria-label={`Take corner ${i + 1} away`}
                onClick={() => onChange({ corners: corners.filter((_, k) => k !== i) })}
              >
                Take away
              </Button>
            )}
          </Flex>
        ))}
        {corners.length < MOST_CORNERS && (
          <Button
            size="sm"
            minH="44px"
            variant="outline"
            onClick={() =>
              onChange({ corners: [...corners, between(corners[corners.length - 1], corners[0])] })
            }
          >
            One more corner
          </Button>
        )}
      </Box>
    </Flex>
  );
}
