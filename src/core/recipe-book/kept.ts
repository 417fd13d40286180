import * as v from 'valibot';
import { WEAR_TESTS } from '../factors/index.ts';
import { checkMethod, type Method } from '../methods/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { KeptWords } from '../say/schema.ts';
import { checkItem, type ShelfItem, type ShelfKind } from '../shelf/index.ts';
import { Air, type PatchSettings } from '../trial/index.ts';

const words = (most: number) => v.pipe(v.string(), v.maxLength(most));
const name = v.pipe(v.string(), v.trim(), v.minLength(1, 'Give the recipe a name.'), v.maxLength(80));
const idText = v.pipe(v.string(), v.regex(/^[0-9A-Za-z-]{1,40}$/));
const iso = v.pipe(v.string(), v.isoTimestamp());
const whole = (least: number, most: number) =>
  v.pipe(v.number(), v.integer(), v.minValue(least), v.maxValue(most));
const mm = v.pipe(v.number(), v.minValue(5), v.maxValue(5000));

/** The recipe as it is read: what was chosen, the steps with their windows and cautions, what it rests on. */
const Card = v.object({
  title: words(200),
  choices: v.pipe(v.array(v.object({ what: words(100), choice: KeptWords(400) })), v.maxLength(60)),
  steps: v.pipe(
    v.array(
      v.object({
        action: words(200),
        instruction: KeptWords(2000),
        window: v.optional(KeptWords(400)),
        cautions: v.pipe(v.array(words(1000)), v.maxLength(30)),
      }),
    ),
    v.maxLength(80),
  ),
  evidence: v.pipe(v.array(KeptWords(1000)), v.maxLength(40)),
});

/** What of a recipe the shelf knows, by the kind of its place there; nothing where the method has no use for it. */
const ITEMS = {
  printer: 'printers',
  donor: 'donors',
  medium: 'mediums',
  substrate: 'substrates',
  preparation: 'preparations',
  pressing: 'tools',
  rubTool: 'tools',
  finish: 'finishes',
} as const satisfies Record<string, ShelfKind>;
type ItemKey = keyof typeof ITEMS;
const MUST: readonly ItemKey[] = ['printer', 'donor', 'medium', 'substrate', 'preparation'];

/** A recipe as it is kept: everything that is needed to make a piece by it, without the trial or the shelf it came from. */
const Kept = v.object({
  name,
  card: Card,
  method: v.unknown(),
  items: v.record(v.picklist(Object.keys(ITEMS) as ItemKey[]), v.unknown()),
  numbers: v.object({
    coatMm: v.pipe(v.number(), v.minValue(0), v.maxValue(10)),
    dryHours: v.pipe(v.number(), v.minValue(0), v.maxValue(2000)),
    rounds: whole(0, 9),
    copyAgeH: v.pipe(v.number(), v.minValue(0), v.maxValue(1e5)),
  }),
  options: v.object({ coatWhere: words(40), water: words(40), removal: words(40), trim: words(40) }),
  air: Air,
  /** The trial it came from, and how its patches made so were judged: to keep, of how many. */
  from: v.nullable(v.object({ trial: idText, name: words(80), patches: v.array(words(20)) })),
  seen: v.pipe(
    v.object({ good: whole(0, 4000), of: whole(0, 4000) }),
    v.check(s => s.good <= s.of, 'There cannot be more good ones than were made.'),
  ),
});

const base = { id: idText, recipe: idText, at: iso };
/** The form of one event of a recipe; {@link checkRecipeEvent} checks its method and items as well. */
export const Event = v.variant('kind', [
  /** The recipe as it stands from here on, and why it was changed. */
  v.object({ ...base, kind: v.literal('version'), why: words(400), kept: Kept }),
  /** Pieces that were made by it. */
  v.pipe(
    v.object({
      ...base,
      kind: v.literal('made'),
      of: whole(1, 500),
      good: whole(0, 500),
      size: v.object({ w: mm, h: mm }),
      note: words(1000),
    }),
    v.check(m => m.good <= m.of, 'There cannot be more good ones than were made.'),
  ),
  /** What wear did to pieces of one batch: they held, were marked, or lost of the picture. */
  v.object({
    ...base,
    kind: v.literal('worn'),
    made: idText,
    test: v.picklist(WEAR_TESTS),
    days: whole(0, 4000),
    came: v.picklist(['held', 'marked', 'lost']),
  }),
  v.object({ ...base, kind: v.literal('undo'), of: idText }),
]);
type RawEvent = v.InferOutput<typeof Event>;

/** A recipe, as far as it was checked. */
export type KeptRecipe = Omit<v.InferOutput<typeof Kept>, 'method' | 'items'> & {
  readonly method: Method;
  readonly items: Readonly<Partial<Record<ItemKey, ShelfItem>>>;
};
/** One append-only event of a recipe: a version, pieces made, or one of those taken back. */
export type RecipeEvent =
  | (Omit<Extract<RawEvent, { kind: 'version' }>, 'kept'> & { readonly kept: KeptRecipe })
  | Exclude<RawEvent, { kind: 'version' }>;

/**
 * Checks one event of a recipe: its form, its method and every item of the shelf in it.
 *
 * @example checkRecipeEvent({ kind: 'made', of: 1, good: 2 }).ok; // => false
 */
export function checkRecipeEvent(data: unknown): Outcome<RecipeEvent> {
  const parsed = v.safeParse(Event, data);
  if (!parsed.success) {
    const [issue] = parsed.issues;
    const at = issue.path?.map(p => String(p.key)).join('.') ?? 'its beginning';
    return bad('bad-recipe', `This recipe is damaged at ${at}: ${issue.message}`);
  }
  const event = parsed.output;
  if (event.kind !== 'version') return good(event);
  const { kept } = event;
  const method = checkMethod(kept.method);
  if (!method.ok) return method;
  const items: Partial<Record<ItemKey, ShelfItem>> = {};
  for (const key of Object.keys(ITEMS) as ItemKey[]) {
    const given = kept.items[key];
    if (given === undefined && !MUST.includes(key)) continue;
    const item = checkItem(ITEMS[key], given);
    if (!item.ok) return item;
    items[key] = item.value;
  }
  return good({ ...event, kept: { ...kept, method: method.value, items } });
}

/** What is set for every piece of a recipe. */
export const settingsIn = ({ method, items, numbers, options }: KeptRecipe): PatchSettings =>
  ({ method, ...items, ...numbers, ...options }) as unknown as PatchSettings;

/** A recipe's items from what was set on patches of a trial. */
export function itemsIn(s: PatchSettings): KeptRecipe['items'] {
  return Object.fromEntries(
    (Object.keys(ITEMS) as ItemKey[]).flatMap(key => (s[key] ? [[key, s[key]]] : [])),
  );
}

type Version = Extract<RecipeEvent, { kind: 'version' }>;
type Made = Extract<RecipeEvent, { kind: 'made' }>;
export type Worn = Extract<RecipeEvent, { kind: 'worn' }>;

/** A recipe as it stands, with all it went through. */
export interface RecipeBook {
  readonly id: string;
  readonly now: KeptRecipe;
  readonly versions: readonly Version[];
  readonly made: readonly Made[];
  /** What wear did to them, in order of time; of batches that were taken back nothing. */
  readonly worn: readonly Worn[];
  /** Good ones of all that were made by it, those of its trial among them. */
  readonly seen: { readonly good: number; readonly of: number };
}

/**
 * Recipes out of their events, in whatever order those come: the last version by time counts, what was taken back does
 * not. Those of which no version is left are none.
 *
 * @example recipesIn([]); // => []
 */
export function recipesIn(events: readonly RecipeEvent[]): RecipeBook[] {
  const once = new Map(events.map(e => [e.id, e]));
  const gone = new Set([...once.values()].flatMap(e => (e.kind === 'undo' ? [e.of] : [])));
  const left = [...once.values()]
    .filter(e => !gone.has(e.id))
    .sort((a, b) => a.at.localeCompare(b.at) || a.id.localeCompare(b.id));
  const books: RecipeBook[] = [];
  for (const id of new Set(left.map(e => e.recipe))) {
    const own = left.filter(e => e.recipe === id);
    const versions = own.filter((e): e is Version => e.kind === 'version');
    const made = own.filter((e): e is Made => e.kind === 'made');
    const kept = new Set(made.map(m => m.id));
    const worn = own.filter((e): e is Worn => e.kind === 'worn' && kept.has(e.made));
    const now = versions.at(-1)?.kept;
    if (!now) continue;
    const sum = (of: (m: Made) => number) => made.reduce((all, m) => all + of(m), 0);
    // Another version with the same trial behind it does not count that trial twice.
    const seen = { good: now.seen.good + sum(m => m.good), of: now.seen.of + sum(m => m.of) };
    books.push({ id, now, versions, made, worn, seen });
  }
  return books.sort((a, b) => a.now.name.localeCompare(b.now.name));
}

/** What the file of a recipe says it is. */
const FORMAT = 'wet-test-recipe';

/** A recipe with all it went through as JSON, for another workshop (docs/FORMATS.md). */
export const recipeJson = (events: readonly RecipeEvent[]): string =>
  JSON.stringify({ format: FORMAT, schema: 1, events }, null, 1);

/**
 * The events in a file that {@link recipeJson} made, each of them checked.
 *
 * @example recipeFrom('{}').problem.code; // => 'foreign'
 */
export function recipeFrom(text: string): Outcome<readonly RecipeEvent[]> {
  let data: { format?: unknown; schema?: unknown; events?: unknown } | null;
  try {
    data = JSON.parse(text);
  } catch {
    return bad('broken', 'This file cannot be read: it is damaged, or no recipe.');
  }
  if (!data || data.format !== FORMAT || !Array.isArray(data.events))
    return bad(
      'foreign',
      'This file holds no Wet Test recipe.',
      'Choose a file that was saved from a recipe.',
    );
  if (data.schema !== 1)
    return bad('newer', 'This recipe was saved by a newer Wet Test.', 'Load the newer one, then take it in.');
  if (data.events.length > 5000) return bad('too-big', 'This file holds far more than a recipe can.');
  const events: RecipeEvent[] = [];
  for (const raw of data.events) {
    const event = checkRecipeEvent(raw);
    if (!event.ok) return event;
    events.push(event.value);
  }
  return recipesIn(events).length
    ? good(events)
    : bad('bad-recipe', 'There is no recipe in this file: all of it was taken back.');
}
