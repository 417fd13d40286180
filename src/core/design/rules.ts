import type { Shelf } from '../shelf/index.ts';
import { FACTOR_NAMES, type Factor, type Usual } from '../trial/index.ts';
import { type Air, dryingFactor, dryingRange } from '../units/index.ts';

/** A word of warning about a choice, shown where the choice is made. */
export interface RuleNote {
  readonly severity: 'stop' | 'warn' | 'advise';
  readonly say: string;
}

/** HANDBOOK §4 as far as a wet-rub transfer can meet it. */
export function ruleNotes(shelf: Shelf, usual: Usual, factors: readonly Factor[], air: Air): RuleNote[] {
  const notes: RuleNote[] = [];
  const ids = (key: 'medium' | 'donor' | 'preparation') =>
    factors.find(f => f.key === key)?.levels.map(String) ?? [String(usual[key])];
  const hours = (factors.find(f => f.key === 'dryHours')?.levels ?? [usual.dryHours]).map(Number);
  const printer = shelf.printers.find(p => p.id === usual.printer);
  const substrate = shelf.substrates.find(s => s.id === usual.substrate);

  if (printer && printer.colourant !== 'toner')
    notes.push({
      severity: 'stop',
      say: `${printer.name} prints with ${printer.colourant}: on plain paper it runs or does not let go of the sheet. A wet-rub transfer needs toner.`,
    });
  for (const donor of shelf.donors.filter(d => d.coated && ids('donor').includes(d.id)))
    notes.push({
      severity: 'warn',
      say: `${donor.name}: a gloss coat may let go as a whole, picture and all.`,
    });
  if (substrate && substrate.gloss >= 0.5 && ids('preparation').includes('none'))
    notes.push({
      severity: 'warn',
      say: `${substrate.name} is glossy. With nothing done to it, medium comes away as a clean film. Sand it dull or coat it.`,
    });
  for (const medium of shelf.mediums.filter(m => ids('medium').includes(m.id))) {
    const need = dryingRange(medium.dryHours, air);
    const short = hours.filter(h => h < need.lo);
    if (short.length)
      notes.push({
        severity: 'warn',
        say: `${medium.name} needs about ${need.lo.toFixed(0)}–${need.hi.toFixed(0)} h in this air; ${short.map(h => `${h} h`).join(' and ')} may be too early. Keep it if that is what you want to find out.`,
      });
  }
  if (dryingFactor(air) > 2)
    notes.push({
      severity: 'advise',
      say: `This air is damp or cold: everything dries about ${dryingFactor(air).toFixed(1)} times slower than the jar says.`,
    });
  const once = factors.find(f => f.levels.length !== new Set(f.levels).size);
  if (once) notes.push({ severity: 'stop', say: `${FACTOR_NAMES[once.key]} has the same level twice.` });
  return notes;
}
