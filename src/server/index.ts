import { existsSync } from 'node:fs';
import { createServer as createHttp } from 'node:http';
import { createServer as createHttps } from 'node:https';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import express, { type Express, type NextFunction, type Request, type Response, type Router } from 'express';
import serveCompressed from 'express-static-gzip';
import helmet from 'helmet';

const HERE = dirname(fileURLToPath(import.meta.url));
const DIST = join(HERE, '../../dist');

/** The page's policy: own scripts only; inline styles are what the component library needs. */
const PAGE_POLICY = {
  defaultSrc: ["'none'"],
  scriptSrc: ["'self'"],
  workerSrc: ["'self'"],
  styleSrc: ["'self'", "'unsafe-inline'"],
  imgSrc: ["'self'", 'blob:', 'data:'],
  fontSrc: ["'self'"],
  connectSrc: ["'self'"],
  manifestSrc: ["'self'"],
  baseUri: ["'none'"],
  formAction: ["'none'"],
  frameAncestors: ["'none'"],
  objectSrc: ["'none'"],
};

/**
 * The image library compiles its bindings at start, and the one for HEIC starts a worker of its own from what it holds;
 * only the reader's worker may, and a worker obeys its own response.
 */
const READER_POLICY = {
  ...PAGE_POLICY,
  scriptSrc: ["'self'", "'unsafe-eval'", "'wasm-unsafe-eval'"],
  workerSrc: ["'self'", 'blob:'],
};

const headers = (directives: Record<string, string[]>) =>
  helmet({
    contentSecurityPolicy: { useDefaults: false, directives },
    crossOriginEmbedderPolicy: false,
    strictTransportSecurity: false,
  });

/**
 * The server of the built app. `home` is where `/` leads: the user's own workshop or the demo.
 * Hashed assets are cached for good, pages never; unknown paths below /assets and files are a plain 404. `phone`: what a
 * phone may ask for, where that was wanted ({@link phoneRoutes}).
 */
export function makeServer(home: 'mine' | 'demo', dist: string = DIST, phone?: Router): Express {
  const app = express();
  app.disable('x-powered-by');
  const page = headers(PAGE_POLICY);
  const reader = headers(READER_POLICY);
  app.use((request, response, next) =>
    (/^\/assets\/reader\.worker-[\w-]+\.js$/.test(request.path) ? reader : page)(request, response, next),
  );
  if (phone) app.use('/phone', phone);
  // A page asks once whether phones can be linked: that they cannot is an answer, too.
  else app.get('/phone/ready', (_request, response) => void response.json({ off: true }));
  app.get('/', (_request, response) => response.redirect(302, `/w/${home}`));
  // Compressed once when the app is built (scripts/build.mjs), not at every request.
  const files = (root: string, serveStatic: object) =>
    serveCompressed(root, { enableBrotli: true, orderPreference: ['br', 'gz'], index: false, serveStatic });
  app.use('/assets', files(join(dist, 'assets'), { immutable: true, maxAge: '1y', fallthrough: true }));
  app.use(files(dist, { maxAge: 0 }));
  app.get(/^\/w\/(mine|demo)(\/[\w-]+)*\/?$/, (_request, response) => {
    response.set('Cache-Control', 'no-cache').sendFile(join(dist, 'index.html'));
  });
  app.use((_request, response) => {
    response.status(404).type('text/plain').send('Nothing here. Wet Test starts at /\n');
  });
  app.use((problem: { status?: number }, _request: Request, response: Response, next: NextFunction) => {
    if (response.headersSent) return next(problem);
    const status = problem.status !== undefined && problem.status >= 400 ? problem.status : 500;
    response
      .status(status)
      .type('text/plain')
      .send(WENT_WRONG[status] ?? 'This could not be answered.\n');
  });
  return app;
}

/** What is said of a request that cannot be answered, by its status. */
const WENT_WRONG: Readonly<Record<number, string>> = {
  400: 'This could not be understood.\n',
  416: 'That part of the file does not exist.\n',
  500: 'The server could not answer. Nothing stored is lost: it is kept in the browser.\n',
};

/** A certificate of the maker's own, for https. */
export interface Certificate {
  readonly cert: Buffer;
  readonly key: Buffer;
}

/** A server for the app; over https where there is a certificate. Throws where certificate and key are none or do not belong together. */
export const makeHttp = (app: Express, certificate: Certificate | undefined) =>
  certificate ? createHttps(certificate, app) : createHttp(app);

/** Starts listening; says the address, or why it cannot; ends gracefully on SIGINT and SIGTERM. */
export function listen(
  home: 'mine' | 'demo',
  port: number,
  {
    host = '127.0.0.1',
    phone,
    certificate,
  }: { host?: string; phone?: Router; certificate?: Certificate } = {},
) {
  if (!existsSync(join(DIST, 'index.html'))) {
    console.error('The app is not built yet: run "npm run build".');
    process.exit(1);
  }
  const app = makeServer(home, DIST, phone);
  const made = () => {
    try {
      return makeHttp(app, certificate);
    } catch {
      console.error(
        'The certificate and its key cannot be used: both have to be PEM files and belong together.',
      );
      process.exit(1);
    }
  };
  const server = made().listen(port, host);
  server.once('listening', () => {
    console.log(
      `Wet Test is at ${certificate ? 'https' : 'http'}://localhost:${port}${home === 'demo' ? ' with the demo workshop Gannet Slip' : ''}`,
    );
    if (phone)
      console.log(
        `Phones in your network can be linked${certificate ? '' : '. What they send can be seen by others in it: use it at home only, or give --cert and --key'}.`,
      );
  });
  server.once('error', (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === 'EADDRINUSE'
        ? `Port ${port} is taken by another program. Choose another: PORT=${port + 1} npm start`
        : `The server cannot start: ${error.message}`,
    );
    process.exit(1);
  });
  const stop = () => {
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), 2000).unref();
  };
  process.once('SIGINT', stop);
  process.once('SIGTERM', stop);
}
