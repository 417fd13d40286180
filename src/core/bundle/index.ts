export { hex, type LocalHeader, localHeaderAt, MOST_NAME, unpacked } from './archive.ts';
export { checkTrial, parsePlan, parseRecord } from './check.ts';
export { csvFiles } from './csv.ts';
export { type ImageHead, imageHead } from './image.ts';
export { lostWords } from './lost.ts';
export { shiftTimes } from './shift.ts';
export {
  checkWorkshop,
  NO_WORKSHOP,
  WORKSHOP_FORMAT,
  WORKSHOP_NAMES,
  type WorkshopFile,
  workshopJson,
} from './workshop.ts';
export { readBundle, type TrialBundle, writeBundle } from './zip.ts';
