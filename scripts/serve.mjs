// npm start / npm run demo: installs and builds when needed, then serves.
import { spawn } from 'node:child_process';
import { buildIfStale } from './build.mjs';
import { install } from './install.mjs';

install();
buildIfStale();
const server = spawn(
  process.execPath,
  ['--import', 'tsx', 'src/server/main.ts', process.argv[2] ?? 'start', ...process.argv.slice(3)],
  { stdio: 'inherit' },
);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', code => process.exit(code ?? 0));
