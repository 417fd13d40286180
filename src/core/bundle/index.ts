export { checkTrial, parsePlan, parseRecord } from './check.ts';
export { csvFiles } from './csv.ts';
export { shiftTimes } from './shift.ts';
export { imageKind, readBundle, type TrialBundle, writeBundle } from './zip.ts';
