import * as v from 'valibot';
import { bad, good, type Outcome } from '../core/outcome/index.ts';
import { LinkAbout } from './about.ts';

export { type Held, takeInbox } from './inbox.ts';
export { LinkAbout };

const Ready = v.object({ secure: v.boolean(), addresses: v.array(v.string()) });
const Opened = v.object({ id: v.string(), owner: v.string(), token: v.string(), expires: v.number() });
const Claimed = v.object({ key: v.string(), about: LinkAbout });
const Looked = v.object({
  claimed: v.boolean(),
  taken: v.boolean(),
  inbox: v.array(
    v.object({ id: v.string(), kind: v.picklist(['photo', 'trial']), patch: v.nullable(v.string()) }),
  ),
});
/** A link as the laptop holds it. */
export type Opened = v.InferOutput<typeof Opened>;
/** A link as the phone holds it. */
export type Claimed = v.InferOutput<typeof Claimed>;
export { Claimed as ClaimedSchema, Opened as OpenedSchema };
export type Came = v.InferOutput<typeof Looked>['inbox'][number];

const UNREACHED = 'The laptop cannot be reached. Both must be in the same network, and the laptop awake.';

/** One request; what goes wrong comes back in the server’s words, or says that it cannot be reached. */
async function ask(
  method: string,
  path: string,
  { secret, body, laptop }: { secret?: string; body?: Blob | object; laptop?: boolean } = {},
): Promise<Outcome<Response>> {
  const isBlob = body instanceof Blob;
  try {
    const response = await fetch(`/phone${path}`, {
      method,
      cache: 'no-store',
      headers: {
        ...(laptop ? { 'x-wet-test': 'laptop' } : {}),
        ...(secret ? { authorization: `Bearer ${secret}` } : {}),
        ...(body ? { 'content-type': isBlob ? 'application/octet-stream' : 'application/json' } : {}),
      },
      ...(body ? { body: isBlob ? body : JSON.stringify(body) } : {}),
    });
    if (response.ok) return good(response);
    const told = v.safeParse(v.object({ say: v.string() }), await response.json().catch(() => undefined));
    return bad(
      response.status === 401 || response.status === 404 ? 'ended' : 'refused',
      told.success ? told.output.say : UNREACHED,
    );
  } catch {
    return bad('unreached', UNREACHED);
  }
}

async function parsed<S extends v.GenericSchema>(
  schema: S,
  asked: Promise<Outcome<Response>>,
): Promise<Outcome<v.InferOutput<S>>> {
  const got = await asked;
  if (!got.ok) return got;
  const read = v.safeParse(schema, await got.value.json().catch(() => undefined));
  return read.success ? good(read.output) : bad('unreached', UNREACHED);
}

/** What the laptop asks of its own server. */
export const laptop = {
  /** The addresses a phone can reach this laptop under; an error where linking is off. */
  ready: () => parsed(Ready, ask('GET', '/ready', { laptop: true })),
  open: (about: LinkAbout) => parsed(Opened, ask('POST', '/open', { laptop: true, body: about })),
  offer: ({ id, owner }: Opened, trial: Blob) =>
    ask('PUT', `/open/${id}/trial`, { laptop: true, secret: owner, body: trial }),
  look: ({ id, owner }: Opened) => parsed(Looked, ask('GET', `/open/${id}`, { laptop: true, secret: owner })),
  fetch: async ({ id, owner }: Opened, item: Came): Promise<Outcome<Blob>> => {
    const got = await ask('GET', `/open/${id}/inbox/${item.id}`, { laptop: true, secret: owner });
    return got.ok ? good(await got.value.blob()) : got;
  },
  drop: ({ id, owner }: Opened, item: Came) =>
    ask('DELETE', `/open/${id}/inbox/${item.id}`, { laptop: true, secret: owner }),
  close: ({ id, owner }: Opened) => ask('DELETE', `/open/${id}`, { laptop: true, secret: owner }),
};

/** What a phone asks of the laptop's server. */
export const phone = {
  claim: (token: string) => parsed(Claimed, ask('POST', '/claim', { body: { token } })),
  trial: async (key: string): Promise<Outcome<Blob>> => {
    const got = await ask('GET', '/at/trial', { secret: key });
    return got.ok ? good(await got.value.blob()) : got;
  },
  /** Says that the trial is stored here, so that the laptop need not hold it any longer. */
  stored: (key: string) => ask('POST', '/at/trial/stored', { secret: key }),
  /** Sends a photo under a name of the phone's own, by which it is known wherever it comes. */
  photo: (key: string, name: string, patch: string, photo: Blob) =>
    ask('POST', `/at/photo?${new URLSearchParams({ name, patch })}`, { secret: key, body: photo }),
  /** The names of what was sent and is not stored by the laptop yet. */
  waiting: (key: string) =>
    parsed(v.object({ waiting: v.array(v.string()) }), ask('GET', '/at/waiting', { secret: key })),
  back: (key: string, trial: Blob) => ask('POST', '/at/back', { secret: key, body: trial }),
};

/** A value of a link in the browser’s own small storage; nothing where there is none, or it cannot be read. */
export function kept<S extends v.GenericSchema>(key: string, schema: S): v.InferOutput<S> | undefined {
  try {
    const read = v.safeParse(schema, JSON.parse(localStorage.getItem(key) ?? 'null'));
    return read.success ? read.output : undefined;
  } catch {
    return undefined;
  }
}

/** Keeps such a value, or forgets it. A browser that stores nothing has the link until the page is closed. */
export function keepLink(key: string, value: object | undefined): void {
  try {
    if (value) localStorage.setItem(key, JSON.stringify(value));
    else localStorage.removeItem(key);
  } catch {
    // What cannot be kept is asked for again.
  }
}

/** Where a phone keeps its link. */
export const PHONE_KEY = 'wet-test-phone';
