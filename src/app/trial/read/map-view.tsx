import { Box, Text } from '@chakra-ui/react';
import { useEffect, useRef } from 'react';
import { useMaps, usePhotoUrl, type WorkshopName } from '../../../store/index.ts';

export type Overlay = 'none' | 'bare' | 'veil';

interface Props {
  readonly workshop: WorkshopName;
  readonly trial: string;
  /** The reading’s record: its maps are kept by that. */
  readonly record: string;
  readonly straight: string | null;
  readonly overlay: Overlay;
}

const bytesOf = (data: string) => Uint8Array.from(atob(data), c => c.charCodeAt(0));
const SAYS: Record<Overlay, string> = {
  none: 'The photo, straightened and balanced.',
  bare: 'Orange hatch: bare. Blue dots: cannot be seen on this ground.',
  veil: 'The denser the white dots, the thicker the veil.',
};

/** The straightened photo with a map drawn over it; hatch and dots as well as colour. */
export function MapView({ workshop, trial, record, straight, overlay }: Props) {
  const url = usePhotoUrl(workshop, trial, straight);
  const { data: maps } = useMaps(workshop, trial, record);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !maps || !canvas.current) return;
    const { w, h } = maps.state;
    const zoom = 3;
    canvas.current.width = w * zoom;
    canvas.current.height = h * zoom;
    const image = context.createImageData(w * zoom, h * zoom);
    const state = bytesOf(maps.state.data);
    const veil = bytesOf(maps.veil.data);
    for (let y = 0; y < h * zoom; y++)
      for (let x = 0; x < w * zoom; x++) {
        const i = Math.floor(y / zoom) * w + Math.floor(x / zoom);
        const pixel =
          overlay === 'bare'
            ? bareInk(state[i], x, y)
            : overlay === 'veil'
              ? veilInk(veil[i], x, y)
              : undefined;
        if (pixel) image.data.set(pixel, (y * w * zoom + x) * 4);
      }
    context.putImageData(image, 0, 0);
  }, [maps, overlay]);
  return (
    <Box>
      <Box position="relative" borderWidth="1px" aspectRatio="1" bg="bg.muted">
        {url && <img src={url} alt="The patch, straightened" style={{ width: '100%', height: '100%' }} />}
        <canvas
          ref={canvas}
          role="img"
          aria-label={SAYS[overlay]}
          style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
        />
      </Box>
      <Text fontSize="0.9rem" color="fg.muted" mt="1">
        {SAYS[overlay]}
      </Text>
    </Box>
  );
}

function bareInk(state: number, x: number, y: number): readonly number[] | undefined {
  if (state === 2) return (x + y) % 8 < 4 ? [214, 60, 8, 235] : [255, 214, 190, 150];
  if (state === 3) return x % 6 < 2 && y % 6 < 2 ? [20, 90, 200, 230] : undefined;
  return undefined;
}

/** Ordered dots: a 4 × 4 threshold pattern whose density follows the veil. */
const PATTERN = [0, 8, 2, 10, 12, 4, 14, 6, 3, 11, 1, 9, 15, 7, 13, 5];
function veilInk(veil: number, x: number, y: number): readonly number[] | undefined {
  const level = Math.min(1, (veil / 255) * 2);
  return level * 16 > PATTERN[(y % 4) * 4 + (x % 4)] + 0.5 ? [255, 255, 255, 240] : undefined;
}
