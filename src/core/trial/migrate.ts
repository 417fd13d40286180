import { asNow } from '../methods/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { ONLY_METHOD } from './only-method.ts';
import { SCHEMA_VERSION } from './schema.ts';

/** One step up: takes data of version `n` and gives data of version `n + 1`. */
export type Migration = (data: Record<string, unknown>) => Record<string, unknown>;

type Loose = Record<string, unknown>;

/**
 * Version 1 knew one method and six factors: the plan gets its own copy of that method, how it was designed, and
 * words for the choices that were not asked then.
 */
function fromOne(plan: Loose): Loose {
  const used = (plan.used ?? {}) as Loose;
  return {
    ...plan,
    design: { kind: 'every combination' },
    usual: {
      coatWhere: 'substrate',
      water: 'damp',
      removal: 'rounds',
      trim: 'trimmed',
      pressing: '',
      rubTool: '',
      finish: '',
      copyAgeH: 1,
      ...(plan.usual as Loose),
    },
    used: {
      tools: [],
      finishes: [],
      method: structuredClone(ONLY_METHOD),
      ...used,
      preparations: (used.preparations as Loose[] | undefined)?.map(withKind),
    },
  };
}

/** Preparations of version 1 said by their id alone whether anything is done. */
const withKind = (preparation: Loose): Loose => ({
  kind: { none: 'none', sanded: 'sand', 'white-coat': 'white base coat' }[String(preparation.id)] ?? 'primer',
  ...preparation,
});

/** Version 2 told a step's meaning by its id; now each step says what it does. Verdicts and records stay as they are. */
function fromTwo(plan: Loose): Loose {
  const used = (plan.used ?? {}) as Loose;
  return { ...plan, used: { ...used, method: asNow(used.method) } };
}

/** From-version → migration; a new version adds its step here. */
export const MIGRATIONS: Readonly<Record<number, Migration>> = { 1: fromOne, 2: fromTwo };

/**
 * Brings stored or imported data up to the current schema version, one step at a time.
 * Fails with a sentence when the version is missing, newer than this program, or has no path.
 *
 * @example migrate({ schema: 99 }).problem.code; // => 'newer'
 */
export function migrate(
  data: unknown,
  migrations: Readonly<Record<number, Migration>> = MIGRATIONS,
  target: number = SCHEMA_VERSION,
): Outcome<Record<string, unknown>> {
  if (typeof data !== 'object' || data === null || Array.isArray(data))
    return bad('not-an-object', 'This is not a Wet Test file.', 'Choose a ZIP that Wet Test exported.');
  let current = data as Record<string, unknown>;
  const version = current.schema;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 0)
    return bad(
      'no-version',
      'This file does not say which version it is.',
      'Choose a ZIP that Wet Test exported.',
    );
  if (version > target)
    return bad(
      'newer',
      `This file was made by a newer Wet Test (file version ${version}, this one reads up to ${target}).`,
      'Update Wet Test, then import it again.',
    );
  for (let at = version; at < target; at++) {
    const step = migrations[at];
    if (!step) return bad('no-path', `File version ${at} is too old to be read.`);
    current = { ...step(current), schema: at + 1 };
  }
  return good(current);
}
