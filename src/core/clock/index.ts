export { SteadyClock, type TimeSources } from './steady-clock.ts';
