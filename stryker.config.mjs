// Mutation testing of the core, by hand: `npm run mutate -- findings` (a folder of src/core, or a file below it).
const what = process.env.MUTATE ?? '*';
const files = what.endsWith('.ts') ? [`src/core/${what}`] : [`src/core/${what}/**/*.ts`];

export default {
  packageManager: 'npm',
  testRunner: 'vitest',
  vitest: { configFile: 'scripts/mutate.vitest.ts', related: false },
  mutate: [...files, '!src/core/**/*.test.ts', '!src/core/**/example.ts'],
  // Words that people read are looked at, not tested letter by letter.
  mutator: { excludedMutations: ['StringLiteral'] },
  coverageAnalysis: 'perTest',
  ignoreStatic: true,
  concurrency: Number(process.env.MUTATE_CONCURRENCY ?? 2),
  timeoutMS: 20_000,
  dryRunTimeoutMinutes: 20,
  timeoutFactor: 2,
  disableTypeChecks: false,
  reporters: ['progress-append-only', 'clear-text', 'json'],
  clearTextReporter: { allowColor: false, reportTests: false, logTests: false },
  jsonReporter: { fileName: `tmp/mutation-${what.replace(/\W/g, '-')}.json` },
  tempDirName: 'tmp/stryker',
};
