export { checkTrial, parsePlan, parseRecord } from './check.ts';
export { csvFiles } from './csv.ts';
export { type ImageHead, imageHead } from './image.ts';
export { shiftTimes } from './shift.ts';
export { readBundle, type TrialBundle, writeBundle } from './zip.ts';
