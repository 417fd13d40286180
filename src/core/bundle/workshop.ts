import * as v from 'valibot';
import { Picture } from '../artwork/index.ts';
import { checkMethod, type Method } from '../methods/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { checkRecipeEvent, type RecipeEvent } from '../recipe-book/index.ts';
import { checkItem, SHELF_KINDS, type ShelfItem, type ShelfKind } from '../shelf/index.ts';
import { migrate, PHOTO_STAGES, SCHEMA_VERSION } from '../trial/index.ts';

/** What the file of a whole workshop says it is. */
export const WORKSHOP_FORMAT = 'wet-test-workshop';

/** Files that the ZIP of a workshop may hold (docs/FORMATS.md). */
export const WORKSHOP_NAMES =
  /^((workshop|begun)\.json|trials\/[0-9A-Za-z-]{1,40}\.zip|unreadable\/[0-9A-Za-z-]{1,40}\.json|(pictures|waiting)\/[0-9A-Za-z-]{1,60})$/;

const id = v.pipe(v.string(), v.regex(/^[0-9A-Za-z-]{1,40}$/));
const file = v.pipe(v.string(), v.regex(WORKSHOP_NAMES));
const words = v.pipe(v.string(), v.maxLength(400));

const Envelope = v.object({
  exportedAt: v.pipe(v.string(), v.isoTimestamp()),
  trials: v.pipe(
    v.array(
      v.object({
        id,
        name: words,
        file,
        removedAt: v.optional(v.string()),
        records: v.pipe(v.number(), v.integer(), v.minValue(0)),
        photos: v.pipe(v.number(), v.integer(), v.minValue(0)),
      }),
    ),
    v.maxLength(20_000),
  ),
  unreadable: v.pipe(v.array(v.object({ id, name: words, file })), v.maxLength(20_000)),
  /** Nothing where the shelf is as it came. */
  shelf: v.nullable(v.array(v.object({ kind: v.picklist(SHELF_KINDS), item: v.unknown() }))),
  methods: v.array(v.unknown()),
  pictures: v.array(v.object({ picture: Picture, original: file, pixels: file })),
  /** Recipes with all they went through. */
  recipes: v.optional(v.array(v.unknown()), []),
  waiting: v.array(
    v.object({
      id,
      trial: id,
      name: words,
      file,
      type: v.string(),
      takenAt: v.nullable(v.string()),
      simulated: v.boolean(),
      stage: v.picklist(PHOTO_STAGES),
      worn: v.optional(v.string()),
      addedAt: v.string(),
    }),
  ),
});

/** What a whole workshop's file holds beside its trials, and where each of them lies in it. */
export interface WorkshopFile extends Omit<v.InferOutput<typeof Envelope>, 'shelf' | 'methods' | 'recipes'> {
  readonly recipes: readonly RecipeEvent[];
  readonly shelf: readonly { readonly kind: ShelfKind; readonly item: ShelfItem }[] | null;
  readonly methods: readonly Method[];
}

/** What stands in `workshop.json`, as text. */
export const workshopJson = (told: WorkshopFile): string =>
  JSON.stringify({ format: WORKSHOP_FORMAT, schema: SCHEMA_VERSION, ...told }, null, 1);

/** What is said of a ZIP in which there is no workshop. */
export const NO_WORKSHOP = bad(
  'foreign',
  'This ZIP holds no Wet Test workshop.',
  'Choose a file that “Back up the workshop” made. A single trial is imported on the opening page.',
);

/**
 * Checks what stands in `workshop.json`: all of it fits this version, each shelf item and method by itself.
 *
 * @example checkWorkshop('{}').problem.code; // => 'foreign'
 */
export function checkWorkshop(text: string): Outcome<WorkshopFile> {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return bad('broken', 'The list of what is in this file cannot be read: it is damaged.');
  }
  if (!data || typeof data !== 'object' || (data as { format?: unknown }).format !== WORKSHOP_FORMAT)
    return NO_WORKSHOP;
  // What is inside is brought up to this version piece by piece.
  const same = (envelope: Record<string, unknown>) => envelope;
  const current = migrate(data, { 1: same, 2: same });
  if (!current.ok) return current;
  const parsed = v.safeParse(Envelope, current.value);
  if (!parsed.success) {
    const at = parsed.issues[0].path?.map(p => String(p.key)).join('.') ?? 'its beginning';
    return bad('broken', `The list of what is in this file is damaged at ${at}.`);
  }
  const { shelf, methods, recipes, ...rest } = parsed.output;
  const events: RecipeEvent[] = [];
  for (const raw of recipes) {
    const event = checkRecipeEvent(raw);
    if (!event.ok) return event;
    events.push(event.value);
  }
  const items: { kind: ShelfKind; item: ShelfItem }[] = [];
  for (const { kind, item } of shelf ?? []) {
    const checked = checkItem(kind, item);
    if (!checked.ok) return checked;
    items.push({ kind, item: checked.value });
  }
  const own: Method[] = [];
  for (const method of methods) {
    const checked = checkMethod(method);
    if (!checked.ok) return checked;
    own.push(checked.value);
  }
  const ids = rest.trials.map(t => t.id);
  if (new Set(ids).size !== ids.length) return bad('broken', 'This file lists a trial twice.');
  return good({ ...rest, shelf: shelf && items, methods: own, recipes: events });
}
