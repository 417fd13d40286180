export { type Agenda, type Appointment, agendaOf, agendaOfAll, QUICK, THOROUGH } from './agenda.ts';
export { type AtBench, atBench, dueElsewhere } from './at-bench.ts';
export { type Forecast, forecast } from './forecast.ts';
export { type Action, nextAction } from './next-action.ts';
export { SITTINGS, Sitting, sittingsFrom, USUAL_WORKING, Working, workingWith } from './sittings.ts';
export { type Task, type TrialWorkload, workloadOf } from './workload-of.ts';
