import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { type HandWork, type Patch, type Reading, sizeOf } from '../../../core/trial/index.ts';
import { useMaps, usePhotoUrl } from '../../../store/index.ts';
import { PatchFace } from '../../board/patch-face.tsx';
import { Box, Button, HStack, Text } from '../../ui/kit.tsx';
import { drawMaps, FILL, type Overlay, Ring } from '../overlay.tsx';
import { useTrial } from '../view.tsx';

interface Props {
  readonly patch: Patch;
  /** The reading’s record: its maps are kept by that. */
  readonly record: string;
  readonly reading: Reading;
  readonly straight: string | null;
  readonly overlay: Overlay;
  /** The bare patch that is spoken of, by its place in the list. */
  readonly chosen: number | undefined;
  readonly hand: HandWork;
  /** What is being drawn by hand, where something is. */
  readonly drawing: 'bare' | 'landed' | undefined;
  readonly onDrawn: (outline: HandWork['drawn'][number]['outline']) => void;
}

const SAYS: Record<Overlay, string> = {
  none: 'The photo, straightened and balanced.',
  bare: 'Orange hatch: bare. Blue dots: cannot be seen on this ground.',
  veil: 'The denser the white dots, the thicker the veil.',
};
const ZOOMS = [1, 2, 4];
const BLINK_MS = 700;
/** Points of an outline drawn by hand lie at least so far apart, mm. */
const APART_MM = 0.4;

/** The straightened photo with a map drawn over it, hatch and dots as well as colour; how it should look, by a slider or by blinking. */
export function MapView(props: Props) {
  const { patch, record, reading, straight, overlay, chosen, hand, drawing, onDrawn } = props;
  const { workshop, plan, records } = useTrial();
  const url = usePhotoUrl(workshop, plan.id, straight);
  const { data: maps } = useMaps(workshop, plan.id, record);
  const canvas = useRef<HTMLCanvasElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const [zoom, setZoom] = useState(1);
  const [share, setShare] = useState(0);
  const [blinks, setBlinks] = useState(false);
  const [outline, setOutline] = useState<readonly { x: number; y: number }[]>([]);
  // Readings of earlier versions are of the target alone, whatever the patch.
  const whole = sizeOf(plan);
  const { w, h } = maps
    ? { w: maps.state.w / maps.state.pxPerMm, h: maps.state.h / maps.state.pxPerMm }
    : whole;
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !maps || !canvas.current) return;
    drawMaps(context, canvas.current, maps, overlay);
  }, [maps, overlay]);
  useEffect(() => {
    // The button for it stands below the photo on a phone.
    if (drawing) frame.current?.scrollIntoView({ block: 'center' });
  }, [drawing]);
  useEffect(() => {
    if (!blinks) return;
    const timer = setInterval(() => setShare(s => (s > 50 ? 0 : 100)), BLINK_MS);
    return () => clearInterval(timer);
  }, [blinks]);
  const placeOf = (e: PointerEvent) => {
    const box = frame.current!.getBoundingClientRect();
    return { x: ((e.clientX - box.left) / box.width) * w, y: ((e.clientY - box.top) / box.height) * h };
  };
  // Moves come faster than the page is drawn: the line is kept beside what is shown of it.
  const line = useRef<{ x: number; y: number }[]>([]);
  const show = () => setOutline([...line.current]);
  const begin = (e: PointerEvent) => {
    if (!drawing) return;
    e.currentTarget.setPointerCapture?.(e.pointerId);
    line.current = [placeOf(e)];
    show();
  };
  const go = (e: PointerEvent) => {
    const last = line.current.at(-1);
    if (!drawing || !last) return;
    const at = placeOf(e);
    if (Math.hypot(at.x - last.x, at.y - last.y) < APART_MM || line.current.length >= 400) return;
    line.current.push(at);
    show();
  };
  const end = () => {
    const drawn = line.current;
    line.current = [];
    setOutline([]);
    if (drawing && drawn.length >= 3) onDrawn(drawn);
  };
  const b = chosen === undefined ? undefined : reading.bare[chosen];
  return (
    <Box>
      <Box overflow="auto" borderWidth="1px" bg="bg.muted" maxH="75vh">
        <Box
          ref={frame}
          position="relative"
          style={{
            width: `${zoom * 100}%`,
            aspectRatio: `${w} / ${h}`,
            touchAction: drawing ? 'none' : undefined,
            cursor: drawing ? 'crosshair' : undefined,
          }}
          onPointerDown={begin}
          onPointerMove={go}
          onPointerUp={end}
        >
          {url && <img src={url} alt={`${patch.code}, straightened`} draggable={false} style={FILL} />}
          <canvas ref={canvas} role="img" aria-label={SAYS[overlay]} style={FILL} />
          {share > 0 && (
            <svg
              viewBox={`0 0 ${w} ${h}`}
              role="img"
              aria-label="As it should be"
              style={{ ...FILL, clipPath: `inset(0 ${100 - share}% 0 0)` }}
            >
              <PatchFace {...{ workshop, plan, records, patch }} />
            </svg>
          )}
          <svg viewBox={`0 0 ${w} ${h}`} style={{ ...FILL, pointerEvents: 'none' }}>
            <title>What a hand marked</title>
            {hand.drawn.map((d, i) => (
              <Marked key={`${d.outline[0].x} ${i}`} points={d.outline} isBare={d.isBare} />
            ))}
            {outline.length > 1 && <Marked points={outline} isBare={drawing === 'bare'} />}
            {b && <Ring x={b.x} y={b.y} r={Math.max(1.2, Math.sqrt(b.area / Math.PI) * 1.4)} />}
          </svg>
        </Box>
      </Box>
      <Text fontSize="0.9rem" color="fg.muted" mt="1">
        {share > 0 && share < 100 ? 'Left: as it should be. Right: as it is.' : SAYS[overlay]}
      </Text>
      <label style={{ display: 'block', marginTop: '8px', fontWeight: 600 }}>
        As it should be
        <input
          type="range"
          min={0}
          max={100}
          value={share}
          style={{ width: '100%', height: '36px', accentColor: '#0b5a66' }}
          onChange={e => {
            setBlinks(false);
            setShare(Number(e.target.value));
          }}
        />
      </label>
      <HStack mt="1" wrap="wrap">
        <Button
          size="sm"
          minH="44px"
          variant={blinks ? 'solid' : 'outline'}
          aria-pressed={blinks}
          onClick={() => {
            setBlinks(!blinks);
            if (blinks) setShare(0);
          }}
        >
          {blinks ? 'Stop' : 'Show them by turns'}
        </Button>
        {ZOOMS.map(z => (
          <Button
            key={z}
            size="sm"
            minH="44px"
            minW="44px"
            variant={zoom === z ? 'solid' : 'outline'}
            aria-pressed={zoom === z}
            aria-label={`${z} times as large`}
            onClick={() => setZoom(z)}
          >
            {z}×
          </Button>
        ))}
      </HStack>
    </Box>
  );
}

/** A place drawn by hand: broken line where it is said to be bare, dots where it landed. */
function Marked({ points, isBare }: { points: readonly { x: number; y: number }[]; isBare: boolean }) {
  const at = points.map(p => `${p.x},${p.y}`).join(' ');
  return (
    <g fill="none">
      <polygon points={at} stroke="#fff" strokeWidth="0.7" />
      <polygon
        points={at}
        stroke={isBare ? '#b8360a' : '#0b5a66'}
        strokeWidth="0.4"
        strokeDasharray={isBare ? '1.4 0.7' : '0.3 0.6'}
      />
    </g>
  );
}
