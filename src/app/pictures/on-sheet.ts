import {
  type Picture,
  type PrintSize,
  placeDrawing,
  safeDrawing,
  vectorsOf,
} from '../../core/artwork/index.ts';
import type { OwnPicture } from '../../core/sheets/index.ts';
import { type WorkshopName, workshopOf } from '../../store/index.ts';
import { printPicture } from '../../workers/index.ts';

/**
 * A stored picture as it goes on a sheet at a size: as outlines where it is a drawing of plain outlines that was
 * left as it is, else as pixels with its edits. Throws when its file is missing.
 */
export async function onSheet(
  workshop: WorkshopName,
  picture: Picture,
  size: PrintSize,
  mirror: boolean,
): Promise<OwnPicture> {
  return {
    key: picture.id,
    name: picture.name,
    w: size.w,
    h: size.h,
    copies: 1,
    centreMarks: picture.centreMarks,
    form:
      (await outlines(workshop, picture, size, mirror)) ?? (await pixels(workshop, picture, size, mirror)),
  };
}

async function outlines(
  workshop: WorkshopName,
  picture: Picture,
  size: PrintSize,
  mirror: boolean,
): Promise<OwnPicture['form'] | undefined> {
  if (picture.edits.length) return undefined;
  const original = await workshopOf(workshop).pictureFile(picture.id, 'original');
  const start = await original?.slice(0, 4096).text();
  if (!original || !start?.includes('<svg')) return undefined;
  const drawing = safeDrawing(await original.text());
  const vectors = drawing.ok ? vectorsOf(drawing.value) : drawing;
  return vectors.ok ? { kind: 'outlines', paths: placeDrawing(vectors.value, size, mirror) } : undefined;
}

async function pixels(
  workshop: WorkshopName,
  picture: Picture,
  size: PrintSize,
  mirror: boolean,
): Promise<OwnPicture['form']> {
  const file = await workshopOf(workshop).pictureFile(picture.id, 'pixels');
  if (!file) throw new Error(`the file of ${picture.name} is missing`);
  return { kind: 'pixels', bytes: await printPicture(file, picture.edits, size, mirror) };
}
