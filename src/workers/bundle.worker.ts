import { expose, transfer } from 'comlink';
import { readBundle } from '../core/bundle/index.ts';
import { good, type Outcome, type Progress } from '../core/outcome/index.ts';
import type { TrialPlan, TrialRecord } from '../core/trial/index.ts';

/** A trial out of a file, every photo of which was opened. */
export interface TrialFile {
  readonly plan: TrialPlan;
  readonly records: readonly TrialRecord[];
  readonly photos: ReadonlyMap<string, Uint8Array>;
  readonly missing: readonly string[];
  /** Photos that are damaged in the file, and were left out; they are among the missing. */
  readonly lost: readonly string[];
}

/** Whether the browser can open a photo as a picture. */
async function opens(bytes: Uint8Array): Promise<boolean> {
  try {
    (await createImageBitmap(new Blob([bytes as BlobPart]))).close();
    return true;
  } catch {
    return false;
  }
}

const api = {
  /** Unpacks and checks a trial's archive, then opens every photo. */
  async read(file: Blob, tell: Progress): Promise<Outcome<TrialFile>> {
    const bundle = readBundle(new Uint8Array(await file.arrayBuffer()), tell);
    if (!bundle.ok) return bundle;
    const { plan, records, photos: found, missing = [], lost = [] } = bundle.value;
    const photos = new Map<string, Uint8Array>();
    const closed: string[] = [];
    let done = 0;
    for (const [id, bytes] of found) {
      tell(0.8 + (0.2 * done++) / found.size, 'Opening the photos');
      if (await opens(bytes)) photos.set(id, bytes);
      else closed.push(id);
    }
    const value = { plan, records, photos, missing: [...missing, ...closed], lost: [...lost, ...closed] };
    return transfer(good(value), [...new Set([...photos.values()].map(b => b.buffer as ArrayBuffer))]);
  },
};
export type BundleApi = typeof api;

expose(api);
