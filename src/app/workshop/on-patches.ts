import {
  type Edit,
  onPatch,
  type Picture,
  type PictureFacts,
  type PrintSize,
  printSize,
} from '../../core/artwork/index.ts';
import { freshId } from '../../core/codes/index.ts';
import { type PlanPicture, pictureRoom, type TrialPlan } from '../../core/trial/index.ts';
import { type RecordDraft, type WorkshopName, workshopOf } from '../../store/index.ts';
import { patchPicture, viewPicture } from '../../workers/index.ts';

type Crop = Extract<Edit, { kind: 'crop' }>;
type Sized = Pick<TrialPlan, 'patchMm' | 'patchTallMm'>;

async function pixelsOf(workshop: WorkshopName, picture: Picture): Promise<Blob> {
  const file = await workshopOf(workshop).pictureFile(picture.id, 'pixels');
  if (!file) throw new Error(`the file of ${picture.name} is missing`);
  return file;
}

/** A stored picture as it lies on the patches of a trial: a PNG. Throws when its file is missing. */
export async function facePicture(
  workshop: WorkshopName,
  picture: Picture,
  on: PlanPicture,
  plan: Sized,
): Promise<Blob> {
  const { w, h } = pictureRoom(plan, on);
  const { edits, piece, fit, marginMm } = picture;
  const file = await pixelsOf(workshop, picture);
  return patchPicture({ file, edits, room: { w, h }, how: on.how, at: on.at, piece, fit, marginMm });
}

/**
 * What of a picture lies on a patch, as edits that leave nothing else, and how wide it is there, mm: a part is judged by
 * what it shows itself, with lines as wide as on its piece.
 *
 * @example seenOn([], { place: { w: 30 }, part: { x: 0, y: 0, w: 1, h: 1 } }); // => { edits: [], widthMm: 30 }
 */
export function seenOn(
  edits: readonly Edit[],
  { place, part }: { readonly place: { readonly w: number }; readonly part: Omit<Crop, 'kind'> },
): { readonly edits: readonly Edit[]; readonly widthMm: number } {
  const { x, y, w, h } = part;
  const isWhole = w === 1 && h === 1;
  return { edits: isWhole ? edits : [...edits, { kind: 'crop', x, y, w, h }], widthMm: place.w };
}

/** What is measured of a picture at the size that it has on the patches, and that size. */
export async function measuredOn(
  workshop: WorkshopName,
  picture: Picture,
  on: PlanPicture,
  plan: Sized,
): Promise<{ readonly facts: PictureFacts; readonly size: { readonly w: number; readonly h: number } }> {
  const look = {
    file: await pixelsOf(workshop, picture),
    key: picture.id,
    edits: picture.edits,
    oneColour: false,
    mirror: false,
    grounds: [],
  };
  const room = pictureRoom(plan, on);
  const { aspect } = await viewPicture({ ...look, widthMm: room.w });
  const size: PrintSize =
    on.how === 'whole'
      ? printSize(aspect, room, 'fit', 0)
      : printSize(aspect, picture.piece, picture.fit, picture.marginMm);
  const { edits, widthMm } = seenOn(picture.edits, onPatch(aspect, room, on.how, on.at, size));
  const { facts } = await viewPicture({ ...look, edits, widthMm });
  return { facts, size: { w: Math.min(size.w, room.w), h: Math.min(size.h, room.h) } };
}

/** Records and files of the pictures that a plan's patches carry. Throws when one is not among the maker's pictures any more. */
export async function picturesFor(
  workshop: WorkshopName,
  plan: TrialPlan,
  stored: readonly Picture[],
): Promise<{ readonly drafts: readonly RecordDraft[]; readonly files: ReadonlyMap<string, Blob> }> {
  const files = new Map<string, Blob>();
  const drafts: RecordDraft[] = [];
  for (const on of plan.pictures ?? []) {
    const picture = stored.find(p => p.id === on.id);
    if (!picture) throw new Error(`“${on.name}” is not among your pictures any more; leave it out`);
    const file = freshId(Math.random);
    files.set(file, await facePicture(workshop, picture, on, plan));
    drafts.push({ kind: 'picture', patch: null, picture: on.id, file });
  }
  return { drafts, files };
}
