import { describe, expect, it } from 'vitest';
import { findMethod, METHODS } from '../methods/index.ts';
import { write } from '../say/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { sheetNotes } from './index.ts';

const { printers, donors } = STARTER_SHELF;
const of = (method: string, printer: string, donor: string) =>
  sheetNotes(
    findMethod(method)!,
    STARTER_SHELF,
    printers.find(p => p.colourant === printer)!,
    donors.find(d => d.kind === donor)!,
  );
const stops = (...what: [string, string, string]) =>
  of(...what)
    .filter(n => n.severity === 'stop')
    .map(n => n.id);

describe('a sheet that is printed by itself', () => {
  it('never ruins a printer, whatever the method', () => {
    for (const { id } of METHODS) {
      for (const ink of ['dye ink', 'pigment ink'])
        expect(stops(id, ink, 'dissolving paper')).toContain('dissolving-in-inkjet');
      for (const film of ['clear film', 'decal film', 'release sheet', 'iron-on sheet, light goods'])
        expect(stops(id, 'toner', film)).toContain('film-in-laser');
    }
  });

  it('is stopped as the planner would stop it, and warned of as the planner would warn', () => {
    expect(stops('film-pull', 'dye ink', 'clear film')).toContain('dye-on-film');
    expect(stops('wet-rub', 'pigment ink', 'plain paper')).toContain('inkjet-rubbed-wet');
    expect(stops('wet-rub', 'toner', 'plain paper')).toEqual([]);
    expect(of('backing-print', 'toner', 'waxy backing').map(n => n.id)).toContain('waxy-in-laser');
    const [first] = of('film-pull', 'dye ink', 'clear film');
    expect(write(first.say)).toMatch(/\. .*\.$/);
  });

  it('says nothing of ground or medium, which are not settled there', () => {
    expect(of('tape-lift', 'toner', 'plain paper').map(n => n.id)).not.toContain('glossy-untreated');
  });

  it('is a guide for the hand that no printer is harmed by: a stamp, a tracing, a magazine page', () => {
    expect(stops('gel-skin', 'stamp ink', 'release sheet')).toEqual([]);
    expect(stops('carbon-trace', 'carbon', 'carbon sheet')).toEqual([]);
    expect(stops('tape-lift', 'magazine print', 'magazine page')).toEqual([]);
  });

  it('says what the shelf lacks for the method', () => {
    const bare = { ...STARTER_SHELF, mediums: [] };
    const notes = sheetNotes(findMethod('wet-rub')!, bare, printers[0], donors[0]);
    expect(notes).toEqual([
      { id: 'shelf', severity: 'warn', say: expect.stringMatching(/^Your shelf has no medium/) },
    ]);
  });
});
