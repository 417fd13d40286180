export { airFromLog, type LoggedAir } from './logger.ts';
export { coatThicknessMm, simulatedGrams } from './scale.ts';
export { simulatedAir } from './simulated-air.ts';
