export { type Advised, advise, type Loss, slackOf } from './advise.ts';
export { type Desk, type DeskLine, deskOf } from './desk.ts';
export {
  type AtHand,
  begunAt,
  type LikelyLoss,
  type Next,
  nameOf,
  type Upcoming,
  whatNext,
} from './next.ts';
export { type Pace, paceOf } from './pace.ts';
export { type Move, Play, type Takes } from './play.ts';
export { type OnScreen, pressMeans } from './press.ts';
export { dueFirst, guarded } from './rules.ts';
