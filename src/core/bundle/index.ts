export { csvFiles } from './csv.ts';
export { imageKind, readBundle, type TrialBundle, writeBundle } from './zip.ts';
export { shiftTimes } from './shift.ts';
export { checkTrial, parsePlan, parseRecord } from './check.ts';
