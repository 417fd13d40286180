import { randomBytes, timingSafeEqual } from 'node:crypto';
import { hostname, networkInterfaces } from 'node:os';
import express, { type NextFunction, type Request, type Response, Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import * as v from 'valibot';
import { LinkAbout } from '../phone/about.ts';

/** How long an address may wait to be opened, and how long a phone that opened it may be silent, ms. */
const UNCLAIMED_MS = 10 * 60_000;
const CLAIMED_MS = 12 * 3_600_000;
/** The most that is held at a time, over all. */
const MOST_LINKS = 8;
const MOST_HELD = 400e6;
const MOST_OF_ONE = 320e6;
const MOST_PHOTO = 40e6;
const MOST_TRIAL = 300e6;
const MOST_ITEMS = 120;
const FULL = 'Too much is waiting for the laptop. Wake it and let it fetch.';
/** What is answered to who has no right secret. */
const GUESSED = [401, 404, 410];

interface Item {
  readonly id: string;
  readonly kind: 'photo' | 'trial';
  readonly patch: string | null;
  readonly bytes: Buffer;
}

/** One phone and what it is linked to; it all goes when it is closed, has run out, or the server ends. */
interface PhoneLink {
  readonly id: string;
  readonly about: LinkAbout;
  /** What the laptop shows to fetch what came. */
  readonly owner: string;
  /** Good once, to be exchanged for a key. */
  readonly token: string;
  key: string | undefined;
  trial: Buffer | undefined;
  /** The phone said that it has stored the trial. */
  isTaken: boolean;
  /** Bytes that are on their way in. */
  coming: number;
  expires: number;
  inbox: Item[];
}

const bytesOf = ({ trial, inbox, coming }: PhoneLink): number =>
  (trial?.length ?? 0) + coming + inbox.reduce((sum, i) => sum + i.bytes.length, 0);

/** A name for what came; letters and digits only, as photos are named everywhere else. */
const itemName = () => randomBytes(12).toString('hex');
const secret = () => randomBytes(16).toString('base64url');
/** Whether two secrets are the same, in a time that tells nothing of where they differ. */
const same = (a: string, b: string) => {
  const [x, y] = [Buffer.from(a), Buffer.from(b)];
  return x.length === y.length && timingSafeEqual(x, y);
};

/** The names under which this machine may be asked: itself, and its addresses in the network. */
export function ownHosts(): readonly string[] {
  const addresses = Object.values(networkInterfaces())
    .flatMap(list => list ?? [])
    .filter(a => a.family === 'IPv4')
    .map(a => a.address);
  const name = hostname().toLowerCase();
  return ['localhost', ...addresses, name, `${name}.local`];
}

const LOOPBACK = /^(::1|(::ffff:)?127\.\d+\.\d+\.\d+)$/;
const isPicture = (b: Buffer) =>
  (b[0] === 0xff && b[1] === 0xd8) ||
  b.subarray(1, 4).toString() === 'PNG' ||
  (b.subarray(0, 4).toString() === 'RIFF' && b.subarray(8, 12).toString() === 'WEBP') ||
  /^ftyp(hei|hev|mif|msf)/.test(b.subarray(4, 11).toString());
const isZip = (b: Buffer) => b.subarray(0, 4).equals(Buffer.from([0x50, 0x4b, 3, 4]));

/**
 * The small part of the server that a phone talks to, off unless asked for. The laptop opens a link and gets a token,
 * which a phone exchanges once for a key; with that it sends photos, fetches the trial, gives it back. All is held in
 * memory, and dropped when whoever fetched it says that it is stored. `hosts` are the names it may be asked under: a page elsewhere that has its
 * own name lead here is refused. `now` in ms.
 */
export function phoneRoutes({
  hosts = ownHosts,
  reach = () => hosts().filter(h => /^\d/.test(h) && !h.startsWith('127.')),
  now = Date.now,
  wrongAMinute = 10,
}: {
  hosts?: () => readonly string[];
  /** Those of them that a phone in the network can use. */
  reach?: () => readonly string[];
  now?: () => number;
  wrongAMinute?: number;
} = {}): Router {
  const links = new Map<string, PhoneLink>();
  const no = (response: Response, status: number, say: string) => void response.status(status).json({ say });
  /** Drops what has run out; one that was never opened is remembered for a while to be told so. */
  const tidy = () => {
    for (const [id, link] of links) if (link.expires < now()) links.delete(id);
  };
  const held = () => [...links.values()].reduce((sum, link) => sum + bytesOf(link), 0);
  const bearer = (request: Request) =>
    /^Bearer ([\w-]{10,64})$/.exec(request.get('authorization') ?? '')?.[1];

  const router = Router();
  router.use((request, response, next) => {
    response.set('Cache-Control', 'no-store');
    const host = (request.hostname ?? '').toLowerCase();
    const origin = request.get('origin');
    const isOwn = !origin || (URL.canParse(origin) && new URL(origin).host === request.get('host'));
    if (!hosts().includes(host) || !isOwn)
      return no(response, 403, 'This address is not one of this machine’s own.');
    tidy();
    next();
  });

  /** Only the laptop itself, from a page of its own. */
  const atHome = (request: Request, response: Response, next: NextFunction) => {
    const isHere = LOOPBACK.test(request.socket.remoteAddress ?? '');
    if (!isHere || request.get('x-wet-test') !== 'laptop')
      return no(response, 403, 'Only the laptop itself may ask for this.');
    next();
  };
  const owned = (request: Request, response: Response): PhoneLink | undefined => {
    const link = links.get(String(request.params.link));
    const given = bearer(request);
    if (link && given && same(given, link.owner)) return link;
    no(response, 404, 'This link has ended. Show a new code.');
    return undefined;
  };
  /** The link whose phone asks, before anything that it sends is taken in. */
  const atPhone = (request: Request, response: Response, next: NextFunction) => {
    const given = bearer(request);
    const link = given ? [...links.values()].find(l => l.key && same(given, l.key)) : undefined;
    if (!link) return no(response, 401, 'This link has ended. Scan a new code on the laptop.');
    link.expires = now() + CLAIMED_MS;
    response.locals.link = link;
    next();
  };
  const linkOf = (response: Response) => response.locals.link as PhoneLink;
  /** Takes a body in where there is room for it, which is asked before the first byte of it. */
  const raw = (limit: number) => [
    (request: Request, response: Response, next: NextFunction) => {
      const link = linkOf(response);
      const length = Number(request.get('content-length') ?? Number.NaN);
      const refuse = (status: number, say: string) => {
        // What is still on its way is not waited for.
        response.set('Connection', 'close');
        no(response, status, say);
      };
      if (!Number.isSafeInteger(length) || length < 0)
        return refuse(411, 'This came without saying how large it is.');
      if (length > limit) return refuse(413, 'This file is too large.');
      if (
        link.inbox.length >= MOST_ITEMS ||
        bytesOf(link) + length > MOST_OF_ONE ||
        held() + length > MOST_HELD
      )
        return refuse(507, FULL);
      link.coming += length;
      response.once('close', () => {
        link.coming -= length;
      });
      next();
    },
    express.raw({ type: () => true, limit }),
  ];
  const bodyOf = (request: Request) => (Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0));

  router.get('/ready', atHome, (request, response) => {
    const port = request.socket.localPort;
    const scheme = request.secure ? 'https' : 'http';
    response.json({ secure: request.secure, addresses: reach().map(h => `${scheme}://${h}:${port}`) });
  });
  router.post('/open', atHome, express.json({ limit: 200_000 }), (request, response) => {
    const about = v.safeParse(LinkAbout, request.body);
    if (!about.success) return no(response, 400, 'This is no trial that a phone could be linked to.');
    if (links.size >= MOST_LINKS)
      return no(response, 429, 'Too many phones are linked. End one of them first.');
    const link: PhoneLink = {
      ...{ id: secret(), about: about.output, owner: secret(), token: secret() },
      ...{ key: undefined, trial: undefined, isTaken: false, coming: 0 },
      ...{ expires: now() + UNCLAIMED_MS, inbox: [] },
    };
    links.set(link.id, link);
    response.json({ id: link.id, owner: link.owner, token: link.token, expires: link.expires });
  });
  const ownedFirst = (request: Request, response: Response, next: NextFunction) => {
    const link = owned(request, response);
    if (!link) return;
    response.locals.link = link;
    next();
  };
  router.put(
    '/open/:link/trial',
    atHome,
    ownedFirst,
    raw(MOST_TRIAL),
    (request: Request, response: Response) => {
      const bytes = bodyOf(request);
      if (!isZip(bytes)) return no(response, 415, 'This is not the file of a trial.');
      linkOf(response).trial = bytes;
      response.json({});
    },
  );
  router.get('/open/:link', atHome, (request, response) => {
    const link = owned(request, response);
    if (!link) return;
    // Somebody looks: what a phone is still at does not run out.
    if (link.key) link.expires = now() + CLAIMED_MS;
    response.json({
      claimed: link.key !== undefined,
      taken: link.isTaken,
      expires: link.expires,
      inbox: link.inbox.map(({ id, kind, patch, bytes }) => ({ id, kind, patch, size: bytes.length })),
    });
  });
  router.get('/open/:link/inbox/:item', atHome, (request, response) => {
    const item = owned(request, response)?.inbox.find(i => i.id === request.params.item);
    if (item) response.type('application/octet-stream').send(item.bytes);
    else if (!response.headersSent) no(response, 404, 'This was fetched before.');
  });
  router.delete('/open/:link/inbox/:item', atHome, (request, response) => {
    const link = owned(request, response);
    if (!link) return;
    link.inbox = link.inbox.filter(i => i.id !== request.params.item);
    response.json({});
  });
  router.delete('/open/:link', atHome, (request, response) => {
    const link = owned(request, response);
    if (!link) return;
    links.delete(link.id);
    response.json({});
  });

  // Whoever guesses gets few tries; one who is let in is not counted.
  const guesses = rateLimit({
    ...{ windowMs: 60_000, limit: wrongAMinute, skipSuccessfulRequests: true, standardHeaders: false },
    ...{ legacyHeaders: false, validate: false },
    requestWasSuccessful: (_request, response) => !GUESSED.includes(response.statusCode),
    message: { say: 'Too many tries. Wait a minute, then scan the code again.' },
  });
  router.post('/claim', guesses, express.json({ limit: 1000 }), (request, response) => {
    const token = v.safeParse(v.object({ token: v.pipe(v.string(), v.maxLength(64)) }), request.body);
    const link = token.success ? [...links.values()].find(l => same(l.token, token.output.token)) : undefined;
    if (!link)
      return no(response, 404, 'This code is not known, or has run out. Show a new one on the laptop.');
    if (link.key) return no(response, 410, 'This code was used before. Show a new one on the laptop.');
    link.key = secret();
    link.expires = now() + CLAIMED_MS;
    response.json({ key: link.key, about: link.about });
  });
  router.get('/at/trial', guesses, atPhone, (_request, response) => {
    const link = linkOf(response);
    if (!link.trial) return no(response, 404, 'There is no trial to take along.');
    response.type('application/zip').send(link.trial);
  });
  // Only who has stored it knows that it came.
  router.post('/at/trial/stored', guesses, atPhone, (_request, response) => {
    const link = linkOf(response);
    link.trial = undefined;
    link.isTaken = true;
    response.json({});
  });
  /** What the phone sent and the laptop has not stored yet. */
  router.get('/at/waiting', guesses, atPhone, (_request, response) => {
    response.json({ waiting: linkOf(response).inbox.map(i => i.id) });
  });
  const come =
    (kind: Item['kind'], isRight: (b: Buffer) => boolean, wrong: string) =>
    (request: Request, response: Response) => {
      const link = linkOf(response);
      const bytes = bodyOf(request);
      if (!isRight(bytes)) return no(response, 415, wrong);
      const patch = typeof request.query.patch === 'string' ? request.query.patch : null;
      if (patch !== null && !link.about.patches.some(p => p.code === patch))
        return no(response, 400, 'That patch is not of this trial.');
      // The phone's own name for it: sent twice, it is one.
      const { name } = request.query;
      const id = typeof name === 'string' && /^[0-9A-Za-z]{8,40}$/.test(name) ? name : itemName();
      // A trial that was given back before and not fetched yet is in this one too.
      link.inbox = link.inbox.filter(i => i.id !== id && (kind !== 'trial' || i.kind !== 'trial'));
      const item: Item = { id, kind, patch, bytes };
      link.inbox.push(item);
      response.json({ id: item.id });
    };
  router.post(
    '/at/photo',
    guesses,
    atPhone,
    raw(MOST_PHOTO),
    come('photo', isPicture, 'This is not a photo: JPEG, PNG, WebP or HEIC.'),
  );
  router.post(
    '/at/back',
    guesses,
    atPhone,
    raw(MOST_TRIAL),
    come('trial', isZip, 'This is not the file of a trial.'),
  );

  router.use((_request, response) => no(response, 404, 'Nothing here.'));
  router.use((problem: { status?: number }, _request: Request, response: Response, _next: NextFunction) =>
    problem.status === 413
      ? no(response, 413, 'This file is too large.')
      : no(response, problem.status ?? 400, 'This could not be understood.'),
  );
  return router;
}
