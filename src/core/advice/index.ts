export { type Advised, advise, type Loss, slackOf } from './advise.ts';
export { Answers, type Asked } from './answers.ts';
export { type Desk, type DeskLine, deskOf } from './desk.ts';
export {
  type AtHand,
  actionName,
  begunAt,
  type LikelyLoss,
  type Next,
  nameOf,
  type Upcoming,
  whatNext,
} from './next.ts';
export { type Pace, paceOf } from './pace.ts';
export { type Pick, picked } from './pick.ts';
export { type Move, Play, type Takes } from './play.ts';
export { dueFirst, guarded } from './rules.ts';
export {
  BLANK,
  calledFor,
  comesUp,
  goesThere,
  type Pressed,
  pressed,
  quickestMs,
  type Screen,
  SETTLED_MS,
  takenUp,
} from './screen.ts';
