import { agree } from '../../core/say/index.ts';
/** A photo on the phone until the laptop has stored it. */
export interface Photo {
  readonly id: string;
  readonly patch: string;
  readonly file: Blob;
  /** It was sent, and waits on the laptop's server. */
  readonly isSent?: boolean;
}

/** What became of the photos that were sent. */
export interface Looked {
  /** Those the laptop has stored: the phone need not keep them. */
  readonly stored: readonly Photo[];
  /** Those that are still on the phone, sent or not. */
  readonly left: readonly Photo[];
}

/**
 * What became of photos, by the names that still wait on the laptop's server; nothing (null) where the link has ended:
 * then whatever was not stored has to be sent once more.
 *
 * @example afterLook([{ id: 'a', patch: 'P', file: new Blob(), isSent: true }], []).stored.length; // => 1
 * @example afterLook([{ id: 'a', patch: 'P', file: new Blob() }], []).stored.length; // => 0
 */
export function afterLook(photos: readonly Photo[], waiting: readonly string[] | null): Looked {
  if (!waiting) return { stored: [], left: photos.map(({ id, patch, file }) => ({ id, patch, file })) };
  const isStored = (p: Photo) => p.isSent === true && !waiting.includes(p.id);
  return { stored: photos.filter(isStored), left: photos.filter(p => !isStored(p)) };
}

/**
 * What stands beside a patch: how many of its photos the laptop has, how many are on their way; nothing where none is.
 *
 * @example sentWords(2, 1); // => ' · 2 sent, 1 on its way'
 * @example sentWords(0, 0); // => ''
 */
export function sentWords(stored: number, onWay: number): string {
  const parts = [
    ...(stored ? [`${stored} sent`] : []),
    ...(onWay ? [`${onWay} on ${agree(onWay, 'its', 'their')} way`] : []),
  ];
  return parts.length ? ` · ${parts.join(', ')}` : '';
}
