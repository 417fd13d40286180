import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { type Spot, startCorners } from '../../../core/reading/index.ts';
import { sizeOf } from '../../../core/trial/index.ts';
import { Box, Button, Heading, HStack, Text } from '../../ui/kit.tsx';
import { useTrial } from '../view.tsx';

const NAMES = ['upper left', 'upper right', 'lower right', 'lower left'];

/** The four corners of the picture in a photo, set by hand: dragged, or moved with the arrow keys. */
export function CornersByHand({
  photo,
  size,
  close,
  onDone,
}: {
  photo: Blob;
  size: { readonly w: number; readonly h: number };
  close: () => void;
  onDone: (corners: readonly Spot[]) => void;
}) {
  const { plan } = useTrial();
  const patch = sizeOf(plan);
  const [corners, setCorners] = useState<readonly Spot[]>(() =>
    startCorners(size.w, size.h, patch.w / patch.h),
  );
  const [at, setAt] = useState<number>();
  const [url, setUrl] = useState<string>();
  const svg = useRef<SVGSVGElement>(null);
  useEffect(() => {
    const made = URL.createObjectURL(photo);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [photo]);
  const unit = Math.max(size.w, size.h) / 100;
  const set = (i: number, { x, y }: Spot) =>
    setCorners(old =>
      old.map((c, k) =>
        k === i ? { x: Math.min(size.w, Math.max(0, x)), y: Math.min(size.h, Math.max(0, y)) } : c,
      ),
    );
  const drag = (e: PointerEvent) => {
    // The photo may be narrower than its frame: the browser knows where it drew it.
    const onScreen = svg.current?.getScreenCTM();
    if (at === undefined || !onScreen) return;
    set(at, new DOMPoint(e.clientX, e.clientY).matrixTransform(onScreen.inverse()));
  };
  const nudge = (i: number, e: KeyboardEvent) => {
    const step = e.shiftKey ? unit : unit / 5;
    const by = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    }[e.key];
    if (!by) return;
    e.preventDefault();
    set(i, { x: corners[i].x + by[0], y: corners[i].y + by[1] });
  };
  return (
    <Box role="region" aria-label="Corners by hand" mt="3" p="3" borderWidth="2px" borderColor="tide.solid">
      <Heading as="h3" size="md">
        Where are the picture’s corners?
      </Heading>
      <Text mb="2">
        Drag each mark to its corner of the picture as it should look, the right way round. Without the card
        there is no white paper to compare with: veil, stain, tone and smear are left out.
      </Text>
      <svg
        ref={svg}
        viewBox={`0 0 ${size.w} ${size.h}`}
        aria-label="The photo with four marks"
        role="group"
        style={{ width: '100%', maxHeight: '70vh', touchAction: 'none' }}
        onPointerMove={drag}
        onPointerUp={() => setAt(undefined)}
      >
        {url && <image href={url} width={size.w} height={size.h} />}
        <polygon
          points={corners.map(c => `${c.x},${c.y}`).join(' ')}
          fill="none"
          stroke="#fff"
          strokeWidth={unit * 0.7}
        />
        <polygon
          points={corners.map(c => `${c.x},${c.y}`).join(' ')}
          fill="none"
          stroke="#0b5a66"
          strokeWidth={unit * 0.35}
          strokeDasharray={`${unit} ${unit}`}
        />
        {corners.map((c, i) => (
          <g
            key={NAMES[i]}
            tabIndex={0}
            role="slider"
            aria-label={`The ${NAMES[i]} corner`}
            aria-valuenow={Math.round(c.x)}
            aria-valuetext={`${Math.round(c.x)} across, ${Math.round(c.y)} down`}
            transform={`translate(${c.x} ${c.y})`}
            onKeyDown={e => nudge(i, e)}
            onPointerDown={e => {
              e.currentTarget.setPointerCapture?.(e.pointerId);
              setAt(i);
            }}
            onPointerMove={drag}
            onPointerUp={() => setAt(undefined)}
            style={{ cursor: 'grab' }}
          >
            <circle r={unit * 4} fill="#fff" fillOpacity="0.25" stroke="#fff" strokeWidth={unit * 0.6} />
            <circle r={unit * 4} fill="none" stroke="#0b5a66" strokeWidth={unit * 0.25} />
            <path
              d={`M${-unit * 2} 0H${unit * 2}M0 ${-unit * 2}V${unit * 2}`}
              stroke="#0b5a66"
              strokeWidth={unit * 0.3}
            />
            <text
              x={i === 0 || i === 3 ? -unit * 6.5 : unit * 5}
              y={i < 2 ? -unit * 3 : unit * 5}
              style={{ fontSize: `${unit * 4}px`, fontWeight: 700 }}
              stroke="#fff"
              strokeWidth={unit * 0.8}
              paintOrder="stroke"
              fill="#0b3a42"
            >
              {i + 1}
            </text>
          </g>
        ))}
      </svg>
      <HStack mt="2" wrap="wrap">
        <Button size="xl" colorPalette="buoy" onClick={() => onDone(corners)}>
          Read it by these corners
        </Button>
        <Button minH="44px" variant="outline" onClick={close}>
          Leave it
        </Button>
      </HStack>
    </Box>
  );
}
