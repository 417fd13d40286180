export { type Amounts, type Left, takenOff, usedUp } from './stock.ts';
