export { cautionsAt } from './cautions-at.ts';
export { type Forecast, forecast } from './forecast.ts';
export {
  type Action,
  type Bench,
  type BenchLine,
  benchOf,
  chainOf,
  type Link,
  nextAction,
  openMinutes,
  type PatchStatus,
  patchStatus,
  stepsFor,
  type Window,
  waitAfter,
} from './status.ts';
export { WEAR } from './wear.ts';
