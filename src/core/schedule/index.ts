export {
  type Agenda,
  type Appointment,
  agendaAtLast,
  agendaOf,
  agendaOfAll,
  QUICK,
  THOROUGH,
} from './agenda.ts';
export { dueElsewhere } from './due-elsewhere.ts';
export { type Forecast, forecast } from './forecast.ts';
export { KeptPlans } from './kept-plans.ts';
export { type Action, nextAction } from './next-action.ts';
export { endIn, partOf } from './part-of.ts';
export {
  placesOf,
  SITTINGS,
  Sitting,
  sittingsFrom,
  USUAL_WORKING,
  Working,
  workingWith,
} from './sittings.ts';
export { ALWAYS, type Batch, type Spans, tidySpans } from './solver/index.ts';
export { endOfWork, workPlanOf } from './work-plans.ts';
export {
  batchesLeft,
  batchOf,
  brushOf,
  lastBrush,
  PLATE,
  placeOf,
  type Task,
  type TrialWorkload,
  workloadOf,
  workloadOfAll,
} from './workload-of.ts';
