export { calendarOf, type Session, sessionsOf } from './calendar.ts';
