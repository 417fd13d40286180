import { chanceFrom, seedOf } from '../random/index.ts';
import type { Air } from '../units/index.ts';

const DAY = 86_400_000;

/**
 * The air in a made-up boat shed at a moment (ms): warmest and driest in the afternoon, its weather changing from day
 * to day with the seed; a stand-in for a hygrometer. °C to a tenth, % to a whole.
 */
export function simulatedAir(at: number, seed: number): Air {
  const day = Math.floor(at / DAY);
  const weather = (d: number) => chanceFrom(seedOf(`air ${seed} ${d}`)).normal();
  const share = at / DAY - day;
  const today = weather(day) + share * (weather(day + 1) - weather(day));
  const sun = Math.cos((share - 0.625) * 2 * Math.PI);
  const tempC = Math.min(34, Math.max(6, 18 + 3 * sun - 1.5 * today));
  const rh = Math.min(92, Math.max(28, 58 - 9 * sun + 10 * today));
  return { tempC: Math.round(tempC * 10) / 10, rh: Math.round(rh) };
}
