// Runs a tool of the project (tsx FILE …) after making sure that the packages are installed.
import { spawnSync } from 'node:child_process';
import { install } from './install.mjs';

install();
const [tool, ...args] = process.argv.slice(2);
const done = spawnSync(process.execPath, ['--import', tool, ...args], { stdio: 'inherit' });
process.exit(done.status ?? 1);
