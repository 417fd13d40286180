import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { whatNext } from './advice/index.ts';
import { examplePlan } from './design/example.ts';
import { METHODS } from './methods/index.ts';
import { good, ProblemError } from './outcome/index.ts';
import { progressOf } from './progress/index.ts';
import { chanceFrom } from './random/index.ts';
import * as words from './say/index.ts';
import { agendaOf, USUAL_WORKING } from './schedule/index.ts';
import { STARTER_SHELF } from './shelf/index.ts';
import { readingFor } from './trial/example.ts';
import { settingsOf, type TrialRecord } from './trial/index.ts';

const CORE = 'src/core';
const files = readdirSync(CORE, { recursive: true, encoding: 'utf8' }).filter(
  file => /\.ts$/.test(file) && !/(\.test|example)\.ts$/.test(file),
);

const plan = examplePlan();
const [patch] = plan.patches;
const mark: TrialRecord = {
  id: 'm1',
  at: '2026-05-02T09:00:00.000Z',
  kind: 'step',
  patch: patch.code,
  step: 'mark',
  round: 1,
};
const records = [mark, ...readingFor(patch.code, 1, { landed: 80 })];
const progress = progressOf(plan, records);
const laidOut = agendaOf(plan, [], USUAL_WORKING, Date.parse('2026-05-02T09:00:00.000Z'));
if (!laidOut.ok) throw new ProblemError(laidOut.problem);
/** What examples may speak of beside the functions of their own file. */
const scope = {
  plan,
  patch,
  shelf: STARTER_SHELF,
  methods: METHODS,
  records,
  progress,
  line: progress.lines.find(l => l.patch === patch),
  settings: settingsOf(plan, patch),
  air: plan.air,
  airs: { planned: plan.air, notes: [] },
  chance: chanceFrom(7),
  working: USUAL_WORKING,
  agenda: laidOut.value,
  whatNext,
  start: Date.parse('2026-05-02T09:00:00.000Z'),
  good,
};

interface Example {
  readonly file: string;
  readonly code: string;
  readonly result: string;
}

/** `@example code; // => result` in docstrings. */
const examplesIn = (file: string): Example[] =>
  [...readFileSync(`${CORE}/${file}`, 'utf8').matchAll(/@example (.+?);? \/\/ => (.+)$/gm)].map(
    ([, code, result]) => ({
      file,
      code,
      result: result.replace(/\s*\*\/\s*$/, ''),
    }),
  );

const evaluated = (code: string, known: Record<string, unknown>): unknown =>
  new Function(...Object.keys(known), `return (${code});`)(...Object.values(known));

const all = files.flatMap(examplesIn);

describe('the examples in docstrings', () => {
  it('are many', () => expect(all.length).toBeGreaterThan(120));

  it.each(all.map(e => [`${e.file}: ${e.code}`, e] as const))('%s', async (_, { file, code, result }) => {
    const own = (await import(`./${file}`)) as Record<string, unknown>;
    expect(evaluated(code, { ...scope, ...words, ...own })).toEqual(
      evaluated(result, { ...scope, ...words }),
    );
  });
});
