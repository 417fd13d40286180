import { listen } from './index.ts';

const port = Number(process.env.PORT ?? 4173);
if (!Number.isInteger(port) || port < 1 || port > 65535) {
  console.error(`PORT must be a whole number from 1 to 65535, not "${process.env.PORT}".`);
  process.exit(1);
}
listen(process.argv[2] === 'demo' ? 'demo' : 'mine', port, process.env.HOST ?? '127.0.0.1');
