import { type Cut, readCut } from '../core/reading/index.ts';
import { loadCv } from './node-cv.ts';

// A reader in a process of its own: it is sent one patch of a board after another, and answers each with its reading.
const { cv } = await loadCv();
process.on('message', (cut: Cut) => process.send?.(readCut(cv, cut)));
process.send?.('ready');
