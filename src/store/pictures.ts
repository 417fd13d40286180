import * as v from 'valibot';
import { Picture } from '../core/artwork/index.ts';
import type { Intent, Journal } from './journal.ts';
import type { Locks } from './locks.ts';
import { mergeFields } from './merge.ts';
import type { Stores } from './stores.ts';

const FILES = ['original', 'pixels'] as const;

/** The maker's own pictures with their files. */
export function picturesOf(
  { pictures, pictureFiles }: Stores,
  locks: Locks,
  journal: Journal,
  workshop: string,
) {
  const inTurn = <T>(work: () => Promise<T>) => locks.inTurn(`wet-test ${workshop} pictures`, work);
  /** Files of a picture that was never kept go; those that were there before stay. */
  const repair = async (intent: Intent): Promise<void> => {
    if (intent.work !== 'picture' || (await pictures.getItem(intent.picture))) return;
    for (const key of intent.files ?? []) await pictureFiles.removeItem(key);
  };
  return {
    /** Newest first; those that cannot be read stay stored. */
    pictures: async (): Promise<Picture[]> => {
      const found: Picture[] = [];
      await pictures.iterate<unknown>(value => {
        const picture = v.safeParse(Picture, value);
        if (picture.success) found.push(picture.output);
      });
      return found.sort((a, b) => b.addedAt.localeCompare(a.addedAt));
    },
    /** Keeps a picture; of one that was changed from `base`, only what was changed. */
    savePicture: (picture: Picture, base?: Picture): Promise<void> =>
      inTurn(async () => {
        const now = v.safeParse(Picture, await pictures.getItem(picture.id));
        await pictures.setItem(picture.id, mergeFields(base, picture, now.success ? now.output : undefined));
      }),
    /** Keeps a picture with its file as it was given and, for a drawing, as it was drawn in pixels. */
    addPicture: (picture: Picture, original: Blob, pixels: Blob): Promise<void> =>
      inTurn(async () => {
        const given = { original, pixels };
        const held = new Set(await pictureFiles.keys());
        const files = FILES.map(which => `${picture.id}/${which}`).filter(key => !held.has(key));
        await journal.during(
          { work: 'picture', picture: picture.id, files },
          async () => {
            for (const which of FILES) await pictureFiles.setItem(`${picture.id}/${which}`, given[which]);
            await pictures.setItem(picture.id, picture);
          },
          repair,
        );
      }),
    pictureFile: (id: string, which: (typeof FILES)[number]) => pictureFiles.getItem<Blob>(`${id}/${which}`),
    /** Takes a picture away; its file stays until the workshop is wiped, so that this can be undone. */
    removePicture: (id: string): Promise<void> => inTurn(() => pictures.removeItem(id)),
    repair,
  };
}
