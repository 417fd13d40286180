export { type Agenda, type Appointment, agendaOf, agendaOfAll, QUICK, THOROUGH } from './agenda.ts';
export { type AtBench, atBench, deviationsOf, dueElsewhere, skippedOf } from './at-bench.ts';
export { type Call, callsBetween } from './calls.ts';
export { cautionsAt } from './cautions-at.ts';
export { dryingLine, type Waiting } from './drying.ts';
export { type Forecast, forecast } from './forecast.ts';
export { type Drying, learntDrying, learntMediums, shelfAsLearnt, type Trialled } from './learn.ts';
export { problemOf, type Task, type TrialProblem } from './problem-of.ts';
export { learntShortWait, type ShortWait } from './short-wait.ts';
export { SITTINGS, Sitting, sittingsFrom, USUAL_WORKING, Working, workingWith } from './sittings.ts';
export {
  type Action,
  type Bench,
  type BenchLine,
  benchOf,
  chainOf,
  type Link,
  laterIsFine,
  nextAction,
  openMinutes,
  type PatchStatus,
  patchStatus,
  stepsFor,
  type Window,
  waitAfter,
  whichTime,
} from './status.ts';
export { SteadyClock, type TimeSources } from './steady-clock.ts';
export { alsoNow, handsOnMin, preparedTogether } from './together.ts';
export { WEAR } from './wear.ts';
export { type WithWhat, withWhat } from './with-what.ts';
