import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { listen } from './index.ts';
import { phoneRoutes } from './phone.ts';

function stop(say: string): never {
  console.error(say);
  process.exit(1);
}

const port = Number(process.env.PORT ?? 4173);
if (!Number.isInteger(port) || port < 1 || port > 65535)
  stop(`PORT must be a whole number from 1 to 65535, not "${process.env.PORT}".`);

function options() {
  try {
    const { values, positionals } = parseArgs({
      options: { phone: { type: 'boolean' }, cert: { type: 'string' }, key: { type: 'string' } },
      allowPositionals: true,
    });
    return { ...values, home: positionals[0] === 'demo' ? ('demo' as const) : ('mine' as const) };
  } catch (problem) {
    return stop(
      `${problem instanceof Error ? problem.message : problem}\nUse: npm start -- [--phone] [--cert FILE --key FILE]`,
    );
  }
}

const { phone, cert, key, home } = options();
if (!cert !== !key) stop('A certificate needs its key: give both --cert FILE and --key FILE.');
const read = (file: string) => {
  try {
    return readFileSync(file);
  } catch {
    return stop(`${file} cannot be read.`);
  }
};
listen(home, port, {
  host: process.env.HOST ?? (phone ? '0.0.0.0' : '127.0.0.1'),
  ...(phone ? { phone: phoneRoutes() } : {}),
  ...(cert && key ? { certificate: { cert: read(cert), key: read(key) } } : {}),
});
