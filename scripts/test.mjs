// npm test: installs what is missing, then types, lint, unit tests and the browser journey; closes with "N passed, N failed".
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { buildIfStale } from './build.mjs';
import { install } from './install.mjs';

const run = (command, args, options = {}) =>
  spawnSync(command, args, { stdio: 'inherit', ...options }).status === 0;
const has = command => spawnSync('sh', ['-c', `command -v ${command}`], { stdio: 'ignore' }).status === 0;

/** Chromium and the PDF tools come from Debian's packages; installing them needs root. Begins at once; settles when they are there. */
function debianPackages() {
  const missing = [
    ['chromium', 'chromium'],
    ['pdftotext', 'poppler-utils'],
    ['python3', 'python3'],
  ]
    .filter(([command]) => !has(command))
    .map(([, name]) => name);
  if (!missing.length) return Promise.resolve();
  if (process.getuid?.() !== 0) {
    console.error(
      `The tests need ${missing.join(' and ')} from Debian's packages, and installing needs root.\nRun once: sudo apt-get install ${missing.join(' ')}`,
    );
    process.exit(1);
  }
  console.log(`Installing ${missing.join(', ')}…`);
  const install = `apt-get update -qq && apt-get install -y -qq ${missing.join(' ')}`;
  const child = spawn('sh', ['-c', install], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
  return new Promise(resolve => {
    child.on('exit', code => {
      if (code) {
        console.error(`${missing.join(' and ')} could not be installed.`);
        process.exit(1);
      }
      resolve();
    });
  });
}

let passed = 0;
let failed = 0;
const count = (ok, name) => {
  console.log(`${ok ? 'ok' : 'FAILED'}: ${name}\n`);
  if (ok) passed++;
  else failed++;
};

/** Adds up a runner's JSON report; a runner that left none counts as one failure. */
function add(file, read, name) {
  if (!existsSync(file)) return count(false, `${name} left no report`);
  const [good, bad] = read(JSON.parse(readFileSync(file, 'utf8')));
  passed += good;
  failed += bad;
  if (good + bad === 0) count(false, `${name} ran no test`);
}

// Debian's packages come while npm's do, and while types and lint are looked at.
const packages = debianPackages();
install();
rmSync('test-results', { recursive: true, force: true });
const node = (file, ...args) => run(process.execPath, [file, ...args]);
/** The same beside others: it says what it has to say when it is done. */
const beside = (file, ...args) =>
  new Promise(resolve => {
    const child = spawn(process.execPath, [file, ...args], { stdio: ['ignore', 'pipe', 'pipe'] });
    const said = [];
    child.stdout.on('data', part => said.push(part));
    child.stderr.on('data', part => said.push(part));
    child.on('error', () => resolve(false));
    child.on('close', code => {
      process.stdout.write(Buffer.concat(said));
      resolve(code === 0);
    });
  });
// Each uses one core, and there are two.
const [types, core] = await Promise.all([
  beside('node_modules/typescript/bin/tsc', '-p', 'tsconfig.json'),
  beside('node_modules/typescript/bin/tsc', '-p', 'tsconfig.core.json').then(async isFine => [
    isFine,
    await beside('node_modules/@biomejs/biome/bin/biome', 'lint', '--error-on-warnings', '.'),
  ]),
]);
count(types, 'types');
count(core[0], 'types of the core, without a browser');
count(core[1], 'lint');
await packages;
node(
  'node_modules/vitest/vitest.mjs',
  'run',
  '--reporter=default',
  '--reporter=json',
  '--outputFile.json=test-results/unit.json',
);
add(
  'test-results/unit.json',
  r => [r.numPassedTests, r.numFailedTests + (r.numFailedTestSuites && !r.numFailedTests ? 1 : 0)],
  'unit tests',
);
buildIfStale();
node('node_modules/@playwright/test/cli.js', 'test');
add(
  'test-results/e2e.json',
  r => [r.stats.expected + r.stats.flaky, r.stats.unexpected + r.errors.length],
  'browser tests',
);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
