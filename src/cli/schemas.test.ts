import { readdirSync, readFileSync } from 'node:fs';
import { Ajv } from 'ajv';
import addFormats from 'ajv-formats';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { METHODS } from '../core/methods/index.ts';
import { STARTER_SHELF } from '../core/shelf/index.ts';
import { keptSchema, schemas } from './schemas.ts';

// A validator that is not ours.
const ajv = new Ajv({ allErrors: true, strict: false });
(addFormats as unknown as (a: Ajv) => void)(ajv);
const checker = (name: string) => ajv.compile(JSON.parse(keptSchema(name)));
const trialIn = (file: string) =>
  JSON.parse(new TextDecoder().decode(unzipSync(new Uint8Array(readFileSync(file)))['trial.json']));
const DEMO = readdirSync('public/demo').filter(name => name.endsWith('.zip'));

describe('the schemas of what is exported', () => {
  it('are what the app itself checks by: kept as they are made today', () => {
    for (const [name, text] of Object.entries(schemas()))
      expect(JSON.parse(keptSchema(name)), `run "npm run schemas": ${name}`).toEqual(JSON.parse(text));
  });

  it('hold every trial of the demo', () => {
    const check = checker('trial');
    expect(DEMO.length).toBeGreaterThan(5);
    let records = 0;
    for (const name of DEMO) {
      const trial = trialIn(`public/demo/${name}`);
      expect(check(trial), `${name}: ${JSON.stringify(check.errors?.slice(0, 3))}`).toBe(true);
      records += trial.records.length;
    }
    expect(records).toBeGreaterThan(400);
  });

  it('do not hold what is broken: a kind that is none, a grade of 9, a plan without patches, another version', () => {
    const check = checker('trial');
    const trial = trialIn(`public/demo/${DEMO[0]}`);
    const broken = [
      { ...trial, schema: 1 },
      { ...trial, records: [{ ...trial.records[0], kind: 'wish' }] },
      { ...trial, plan: { ...trial.plan, patches: undefined } },
      {
        ...trial,
        records: [
          {
            id: 'v',
            at: trial.exportedAt,
            patch: null,
            kind: 'verdict',
            verdict: 'keep',
            grade: 9,
            symptoms: [],
          },
        ],
      },
      { ...trial, format: 'other' },
    ];
    for (const [i, one] of broken.entries()) expect(check(one), String(i)).toBe(false);
  });

  it('hold every method, the shelf, a recipe and the told cases', () => {
    const method = checker('method');
    for (const m of METHODS) expect(method(m), `${m.id} ${JSON.stringify(method.errors)}`).toBe(true);
    const shelf = checker('shelf');
    expect(shelf(STARTER_SHELF), JSON.stringify(shelf.errors)).toBe(true);
    const cases = checker('cases');
    const told = JSON.parse(readFileSync('src/core/diagnosis/fixtures/told.json', 'utf8'));
    expect(
      cases({
        cases: told.map(([cause, c]: [string, object], i: number) => ({ id: `${cause} ${i}`, ...c })),
      }),
      JSON.stringify(cases.errors?.slice(0, 3)),
    ).toBe(true);
    expect(cases({ cases: [{ id: 'x', method: 3 }] })).toBe(false);
    const recipe = checker('recipe');
    const made = { id: 'a', recipe: 'b', at: '2026-05-02T08:00:00.000Z', kind: 'made', of: 3, good: 2 };
    expect(recipe({ ...made, size: { w: 40, h: 40 }, note: '' }), JSON.stringify(recipe.errors)).toBe(true);
    expect(recipe({ ...made, of: 0, size: { w: 40, h: 40 }, note: '' })).toBe(false);
  });
});
