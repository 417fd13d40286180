import { type Picture, pictureFile, safeDrawing } from '../../core/artwork/index.ts';
import { freshId } from '../../core/codes/index.ts';
import { bad, good, type Outcome } from '../../core/outcome/index.ts';

const DRAWN_SIDE = 3000;

/** A picture that can be stored: its description, the file as it was given, and as pixels; with what there is to know. */
export interface Added {
  readonly picture: Picture;
  readonly original: Blob;
  readonly pixels: Blob;
  readonly notes: readonly string[];
}

/** Looks a file over, draws drawings, and says what was done; or why it is not taken. */
export async function addPicture(
  file: File,
  start: Pick<Picture, 'method' | 'printer' | 'donor' | 'grounds'>,
): Promise<Outcome<Added>> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const known = pictureFile(bytes);
  if (!known.ok) return known;
  const notes: string[] = [];
  let pixels: Blob = file;
  if (known.value.kind === 'svg') {
    const drawing = safeDrawing(new TextDecoder().decode(bytes));
    if (!drawing.ok) return drawing;
    const drawn = await draw(drawing.value);
    if (!drawn.ok) return drawn;
    pixels = drawn.value;
  } else {
    const opened = await opens(file);
    if (!opened)
      return bad(
        'broken',
        'This picture is damaged and cannot be opened.',
        'Save it again from the program it comes from.',
      );
  }
  if (known.value.animated) notes.push('It moves: its first picture is used.');
  if (known.value.cmyk)
    notes.push('It was made for printing inks; its colours were converted and may look a little different.');
  const picture: Picture = {
    id: freshId(Math.random),
    name: file.name.replace(/\.[a-z0-9]+$/i, '').slice(0, 80) || 'Picture',
    addedAt: new Date().toISOString(),
    edits: [],
    piece: { w: 100, h: 80 },
    fit: 'fit',
    marginMm: 5,
    centreMarks: true,
    hasText: null,
    ...start,
  };
  return good({ picture, original: file, pixels, notes });
}

async function opens(file: Blob): Promise<boolean> {
  try {
    (await createImageBitmap(file)).close();
    return true;
  } catch {
    return false;
  }
}

/** A drawing drawn as an image, where a browser runs nothing and fetches nothing, into pixels. Never put into the page. */
async function draw({ text, w, h }: { text: string; w: number; h: number }): Promise<Outcome<Blob>> {
  const url = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml' }));
  try {
    const image = new Image();
    image.decoding = 'async';
    image.src = url;
    await image.decode();
    const scale = DRAWN_SIDE / Math.max(w, h);
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.round(w * scale));
    canvas.height = Math.max(1, Math.round(h * scale));
    canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise<Blob | null>(resolve => canvas.toBlob(resolve, 'image/png'));
    return blob ? good(blob) : bad('broken-svg', 'This drawing could not be drawn.');
  } catch {
    return bad('broken-svg', 'This drawing could not be drawn.', 'Save it as plain SVG, or as PNG.');
  } finally {
    URL.revokeObjectURL(url);
  }
}
