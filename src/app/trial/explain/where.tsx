import { useEffect, useRef } from 'react';
import { type Explained, type Place, placesOf, placeWords } from '../../../core/diagnosis/index.ts';
import { type Patch, readingOf, sizeOf } from '../../../core/trial/index.ts';
import { useMaps, usePhotoUrl } from '../../../store/index.ts';
import { Box, Text } from '../../ui/kit.tsx';
import { drawMaps, FILL, Ring } from '../overlay.tsx';
import { useTrial } from '../view.tsx';

/**
 * The straightened photo with the places drawn on it that the evidence for a cause speaks of; nothing where it speaks of
 * none, or of the same as a likelier cause, whose photo stands above.
 */
export function Where({
  explained,
  above,
  patch,
}: {
  explained: Explained;
  above: readonly Explained[];
  patch: Patch;
}) {
  const { plan, records } = useTrial();
  const found = readingOf(records, patch.code);
  if (!found?.reading.straight) return null;
  const { reading } = found.reading;
  const placesFor = (e: Explained) =>
    placesOf(
      e.for.map(w => w.signal),
      reading,
    );
  const places = placesFor(explained);
  const isThere = (e: Explained) => JSON.stringify(placesFor(e)) === JSON.stringify(places);
  if (!places.length || above.some(isThere)) return null;
  return (
    <Marked
      places={places}
      patch={patch}
      record={found.reading.id}
      straight={found.reading.straight}
      whole={sizeOf(plan)}
    />
  );
}

function Marked({
  places,
  patch,
  record,
  straight,
  whole,
}: {
  places: readonly Place[];
  patch: Patch;
  record: string;
  straight: string;
  whole: { readonly w: number; readonly h: number };
}) {
  const { workshop, plan } = useTrial();
  const url = usePhotoUrl(workshop, plan.id, straight);
  const { data: maps } = useMaps(workshop, plan.id, record);
  const canvas = useRef<HTMLCanvasElement>(null);
  const map = places.find(p => p.kind === 'map')?.of ?? 'none';
  const { w, h } = maps
    ? { w: maps.state.w / maps.state.pxPerMm, h: maps.state.h / maps.state.pxPerMm }
    : whole;
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (context && canvas.current && maps) drawMaps(context, canvas.current, maps, map);
  }, [maps, map]);
  const words = placeWords(places);
  return (
    <Box my="2" maxW="20rem">
      <Box position="relative" borderWidth="1px" style={{ aspectRatio: `${w} / ${h}` }}>
        {url && <img src={url} alt={`${patch.code}, straightened`} draggable={false} style={FILL} />}
        <canvas ref={canvas} style={FILL} />
        <svg viewBox={`0 0 ${w} ${h}`} role="img" aria-label={words} style={FILL}>
          {places.map(place => (
            <Mark key={JSON.stringify(place)} place={place} w={w} h={h} />
          ))}
        </svg>
      </Box>
      <Text fontSize="0.9rem" color="fg.muted" mt="1">
        {words}
      </Text>
    </Box>
  );
}

/** How broad the band along a side is that is marked, mm: as broad as edges are read. */
const BAND_MM = 2;

function Mark({ place, w, h }: { place: Place; w: number; h: number }) {
  if (place.kind === 'spot') return <Ring x={place.x} y={place.y} r={place.r} />;
  if (place.kind === 'side') {
    const [x, y] = [place.side === 'right' ? w - BAND_MM : 0, place.side === 'bottom' ? h - BAND_MM : 0];
    const across = place.side === 'left' || place.side === 'right';
    const [wide, tall] = across ? [BAND_MM, h] : [w, BAND_MM];
    return (
      <g fill="none">
        <rect x={x} y={y} width={wide} height={tall} stroke="#fff" strokeWidth="0.9" />
        <rect
          x={x}
          y={y}
          width={wide}
          height={tall}
          stroke="#1b1b1b"
          strokeWidth="0.45"
          strokeDasharray="1.2 0.6"
        />
      </g>
    );
  }
  if (place.kind === 'along') {
    // Degrees as readings give them: 0 to the right, 90 down.
    const at = (place.deg * Math.PI) / 180;
    const [dx, dy] = [0.35 * w * Math.cos(at), 0.35 * w * Math.sin(at)];
    const ends = { x1: w / 2 - dx, y1: h / 2 - dy, x2: w / 2 + dx, y2: h / 2 + dy };
    return (
      <g strokeLinecap="round">
        <line {...ends} stroke="#fff" strokeWidth="1.4" />
        <line {...ends} stroke="#1b1b1b" strokeWidth="0.6" />
      </g>
    );
  }
  return null;
}
