export { type Session, sessionsOf } from './sessions.ts';
