import { say, type Words } from '../../core/say/index.ts';
import type { Group, WallPatch } from '../../core/wall/index.ts';

const PX = 6;
const GAP = 18;
const WORDS = 34;
const ACROSS = 6;

/** The wall as one PNG picture: groups under their names, {@link ACROSS} patches beside each other. */
export async function drawWall(
  title: string,
  groups: readonly Group[],
  images: Readonly<Record<string, Uint8Array>>,
  headline: (patch: WallPatch) => Words,
  written: (words: Words) => string,
): Promise<Blob> {
  const all = groups.flatMap(g => g.patches);
  const cell = {
    w: Math.max(150, ...all.map(p => p.size.w * PX)) + GAP,
    h: Math.max(...all.map(p => p.size.h * PX)) + WORDS + GAP,
  };
  const rows = groups.map(g => Math.ceil(g.patches.length / ACROSS));
  const height = 60 + rows.reduce((sum, n) => sum + 44 + n * cell.h, 0);
  const canvas = new OffscreenCanvas(GAP + Math.min(ACROSS, Math.max(1, all.length)) * cell.w, height);
  const context = canvas.getContext('2d')!;
  context.fillStyle = '#fff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.fillStyle = '#111';
  const words = (text: string, x: number, y: number, size: number, most: number) => {
    context.font = `${size}px sans-serif`;
    context.fillText(text, x, y, most);
  };
  words(title, GAP, 38, 24, canvas.width - 2 * GAP);
  let y = 60;
  for (const { name, patches } of groups) {
    words(written(name), GAP, y + 28, 20, canvas.width - 2 * GAP);
    y += 44;
    for (const [i, p] of patches.entries()) {
      const [x, top] = [GAP + (i % ACROSS) * cell.w, y + Math.floor(i / ACROSS) * cell.h];
      const bytes = images[p.record];
      if (bytes) {
        const picture = await createImageBitmap(new Blob([bytes as BlobPart]));
        context.drawImage(picture, x, top, p.size.w * PX, p.size.h * PX);
        picture.close();
      }
      words(written(say`${p.code}  ${headline(p)}`), x, top + p.size.h * PX + 22, 16, cell.w - GAP);
    }
    y += Math.ceil(patches.length / ACROSS) * cell.h;
  }
  return canvas.convertToBlob({ type: 'image/png' });
}
