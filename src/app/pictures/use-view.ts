import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Picture } from '../../core/artwork/index.ts';
import { DONORS, type Donor, isOne, type Substrate } from '../../core/shelf/index.ts';
import { type WorkshopName, workshopOf } from '../../store/index.ts';
import { type Viewed, viewPicture } from '../../workers/index.ts';

export interface View extends Viewed {
  readonly donorUrl: string;
  readonly lookUrls: readonly string[];
}

let last: Promise<unknown> = Promise.resolve();

/** One view after another: what is no longer wanted when its turn comes is passed over. */
function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const next = last.then(work, work);
  last = next.catch(() => undefined);
  return next;
}

/** The stored pixels of a picture. */
export const usePixels = (workshop: WorkshopName, id: string) =>
  useQuery({
    queryKey: ['pixels', workshop, id],
    queryFn: () => workshopOf(workshop).pictureFile(id, 'pixels'),
  });

/** A picture as the worker sees it now; the view from before stays until the next is ready. */
export function useView(
  file: Blob | null | undefined,
  picture: Picture,
  widthMm: number,
  options: {
    readonly mirror: boolean;
    readonly grounds: readonly Substrate[];
    readonly veil: number;
    /** Shares that do not land on a good and on a bad day. */
    readonly loss?: { readonly least: number; readonly most: number };
    readonly donor?: Donor;
    readonly oneColour: boolean;
  },
): { readonly view?: View; readonly problem?: string } {
  const [state, setState] = useState<{ view?: View; problem?: string }>({});
  const { mirror, grounds, veil, loss, donor, oneColour } = options;
  const opaque = isOne(DONORS.opaque, donor?.kind);
  const key = JSON.stringify([
    picture.id,
    picture.edits,
    Math.round(widthMm),
    mirror,
    grounds.map(g => g.id),
    oneColour,
    veil,
    loss,
    opaque,
  ]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for all that changes the view
  useEffect(() => {
    if (!file) return;
    let gone = false;
    const work = () =>
      viewPicture({
        file,
        key: picture.id,
        edits: picture.edits,
        oneColour,
        widthMm,
        mirror,
        grounds: grounds.map(substrate => ({ substrate, veil, opaque, ...(loss ? { loss } : {}) })),
      });
    inTurn(() => (gone ? Promise.resolve(undefined) : work())).then(
      viewed => {
        if (gone || !viewed) return;
        setState(old => {
          for (const url of old.view ? [old.view.donorUrl, ...old.view.lookUrls] : [])
            URL.revokeObjectURL(url);
          return {
            view: {
              ...viewed,
              donorUrl: URL.createObjectURL(viewed.donor),
              lookUrls: viewed.looks.map(l => URL.createObjectURL(l)),
            },
          };
        });
      },
      error => {
        if (!gone)
          setState({
            problem: `The picture cannot be shown: ${error instanceof Error ? error.message : 'no reason given'}.`,
          });
      },
    );
    return () => {
      gone = true;
    };
  }, [file, key]);
  return state;
}
