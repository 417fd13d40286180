import type { useMaps } from '../../store/index.ts';

/** What is drawn over a straightened photo. */
export type Overlay = 'none' | 'bare' | 'veil';

/** Over all of what holds it. */
export const FILL = { position: 'absolute', inset: 0, width: '100%', height: '100%' } as const;

const bytesOf = (data: string) => Uint8Array.from(atob(data), c => c.charCodeAt(0));

/** A ring round a place, seen on light and on dark. */
export const Ring = ({ x, y, r }: { x: number; y: number; r: number }) => (
  <g fill="none">
    <circle cx={x} cy={y} r={r} stroke="#fff" strokeWidth="0.9" />
    <circle cx={x} cy={y} r={r} stroke="#1b1b1b" strokeWidth="0.4" />
  </g>
);

/** Draws a reading’s map on a canvas: hatch where it is bare, dots the denser the thicker the veil. */
export function drawMaps(
  context: CanvasRenderingContext2D,
  canvas: HTMLCanvasElement,
  maps: NonNullable<ReturnType<typeof useMaps>['data']>,
  overlay: Overlay,
) {
  const { w, h } = maps.state;
  const zoom = 3;
  canvas.width = w * zoom;
  canvas.height = h * zoom;
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
