import { type Cut, readCut } from '../core/reading/index.ts';
import { loadCv } from './node-cv.ts';
import { type PhotoTask, readOne } from './read-one.ts';

/** A patch cut out of the photo of a board, or a photo of one. */
export type Task = { readonly cut: Cut } | { readonly photo: PhotoTask };

// A reader in a process of its own: it is sent one task after another, and answers each with what it read.
const { cv } = await loadCv();
process.on('message', async (task: Task) => {
  process.send?.('cut' in task ? readCut(cv, task.cut) : await readOne(cv, task.photo));
});
process.send?.('ready');
