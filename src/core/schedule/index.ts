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
  type Window,
} from './status.ts';
