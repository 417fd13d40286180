import * as v from 'valibot';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { agree, write } from '../say/index.ts';
import { type Column, columnOf } from '../units/index.ts';
import { type Analysis, type Asked, analyse, type NotTold, type Seen } from './analyse.ts';
import { checksOf } from './checks.ts';
import { factorSentence, failureSentence, headline, pairSentence } from './words.ts';

/** What the columns of a table of patches are. */
export const Roles = v.object({
  factors: v.pipe(
    v.record(v.string(), v.picklist(['items', 'number'], 'A factor is "items" or "number".')),
    v.check(f => Object.keys(f).length > 0, 'Name at least one factor.'),
  ),
  responses: v.pipe(
    v.array(
      v.object({
        col: v.string(),
        better: v.picklist(['high', 'low'], 'A response is better "high" or "low".'),
        bounds: v.optional(
          v.pipe(
            v.tuple([v.number(), v.number()]),
            v.check(([lo, hi]) => lo < hi, 'Bounds are the lower end, then the upper.'),
          ),
        ),
      }),
    ),
    v.minLength(1, 'Name at least one response.'),
  ),
  failed: v.optional(v.string()),
  random: v.optional(v.array(v.string()), []),
  strips: v.optional(v.record(v.string(), v.string()), {}),
  interactions: v.optional(v.array(v.tuple([v.string(), v.string()])), []),
  order: v.optional(v.string()),
});
export type Roles = v.InferOutput<typeof Roles>;

export type Row = Readonly<Record<string, string | undefined>>;

/** What is found about one response, as plain data. */
export interface Found {
  readonly estimable: readonly string[];
  readonly notEstimable: readonly { readonly what: string; readonly why: string }[];
  readonly means: readonly (Told & {
    readonly levels: Readonly<Record<string, string | number>>;
    readonly n: number;
  })[];
  readonly differences: readonly (Told & {
    readonly factor: string;
    readonly a: string | number;
    readonly b: string | number;
    readonly p: number;
  })[];
  readonly variance: Readonly<Record<string, number | null>>;
  readonly failure: readonly {
    readonly levels: Readonly<Record<string, string | number>>;
    readonly failed: number;
    readonly of: number;
    readonly value: number | null;
    readonly lo: number | null;
    readonly hi: number | null;
  }[];
  readonly best: readonly {
    readonly levels: Readonly<Record<string, string | number>>;
    readonly probability: number;
    readonly expectedLoss: number;
    readonly value: number;
    readonly lo: number;
    readonly hi: number;
  }[];
  readonly sentences: readonly string[];
}

interface Told {
  readonly value: number;
  readonly se: number;
  readonly df: number;
  readonly lo: number;
  readonly hi: number;
}

/** More different numbers than this are put into groups of like ones. */
const MOST_LEVELS = 12;
const GROUPS = 5;
const FAILED = /^(1|true|yes|y|failed|fail|x)$/i;

/** The columns that hold numbers, by name; fails where one of them can be read in two ways. */
function numbersIn(rows: readonly Row[], roles: Roles): Outcome<ReadonlyMap<string, Column>> {
  const names = [
    ...Object.entries(roles.factors).flatMap(([col, kind]) => (kind === 'number' ? [col] : [])),
    ...roles.responses.map(r => r.col),
    ...(roles.order ? [roles.order] : []),
  ];
  const columns = new Map<string, Column>();
  for (const name of new Set(names)) {
    const column = columnOf(
      name,
      rows.map(row => row[name]),
    );
    if (!column.ok) return column;
    columns.set(name, column.value);
  }
  return good(columns);
}

/**
 * Findings from a table of patches, one row each, for every response of `roles`; by the names of their columns. Fails
 * where a column is not there, or what it holds is not what its role says.
 *
 * @example findingsIn([], { factors: { medium: 'items' }, responses: [{ col: 'score', better: 'high' }] }).ok; // => false
 */
export function findingsIn(
  rows: readonly Row[],
  asked: unknown,
  draws?: number,
): Outcome<Readonly<Record<string, Found>>> {
  const parsed = v.safeParse(Roles, asked);
  if (!parsed.success) return bad('roles', `The roles are wrong: ${parsed.issues[0].message}`);
  const roles = parsed.output;
  const gone = wrongColumns(rows, roles);
  if (gone) return gone;
  const numbers = numbersIn(rows, roles);
  if (!numbers.ok) return numbers;
  const columnIn = (col: string) => numbers.value.get(col) ?? { values: [], strange: [] };
  const outside = outOfBounds(rows, roles, columnIn);
  if (outside) return outside;
  const factors = Object.entries(roles.factors).map(([col, kind]) =>
    kind === 'items' ? itemsOf(rows, col) : numbersOf(columnIn(col).values, col),
  );
  const empty = factors.find(f => !f.levels.length);
  if (empty) return bad('factor', `The column “${empty.col}” is empty.`);
  const names = Object.keys(roles.factors);
  const pairs = roles.interactions.map(([a, b]): [number, number] => [names.indexOf(a), names.indexOf(b)]);
  const random = [...new Set([...roles.random, ...Object.values(roles.strips)])];
  const out: Record<string, Found> = {};
  for (const response of roles.responses) {
    const column = columnIn(response.col);
    const orders = roles.order ? columnIn(roles.order).values : [];
    const patches = rows.map((row, i): Seen => {
      const value = column.values[i];
      const order = orders[i];
      return {
        code: row.code ?? row.id ?? row.patch ?? `row ${i + 1}`,
        levels: factors.map(f => f.levelOf[i]),
        value: Number.isFinite(value) ? value : undefined,
        failed: roles.failed !== undefined && FAILED.test((row[roles.failed] ?? '').trim()),
        shares: random.map(col => row[col]?.trim() ?? ''),
        order: Number.isFinite(order) ? order : undefined,
      };
    });
    const known = patches.filter(p => p.levels.every(l => l >= 0));
    const analysis = analyse({
      factors: factors.map(f => ({ name: f.col, levels: f.levels.map(String) })),
      ...{ pairs, random },
      patches: known,
      better: response.better,
      bounds: response.bounds,
      ...(draws ? { draws } : {}),
    });
    const said = [response.col, ...Object.keys(roles.factors)].flatMap(col =>
      strangeWords(col, columnIn(col)),
    );
    out[response.col] = foundOf(analysis, factors, random, { lacking: patches.length - known.length, said });
  }
  return good(out);
}

function wrongColumns(rows: readonly Row[], roles: Roles): Outcome<never> | undefined {
  const [first] = rows;
  if (!first) return bad('empty', 'The table has no rows.', 'Give one row a patch.');
  const needed = [
    ...Object.keys(roles.factors),
    ...roles.responses.map(r => r.col),
    ...(roles.failed ? [roles.failed] : []),
    ...roles.random,
    ...Object.values(roles.strips),
    ...(roles.order ? [roles.order] : []),
  ];
  const gone = needed.find(col => !(col in first));
  if (gone !== undefined) return bad('column', `The table has no column “${gone}”.`);
  const strange = [...roles.interactions.flat(), ...Object.keys(roles.strips)].find(
    c => !(c in roles.factors),
  );
  if (strange !== undefined) return bad('role', `“${strange}” is not among the factors.`);
  return undefined;
}

function outOfBounds(
  rows: readonly Row[],
  roles: Roles,
  columnIn: (col: string) => Column,
): Outcome<never> | undefined {
  for (const { col, bounds } of roles.responses) {
    const off = bounds && columnIn(col).values.findIndex(x => x < bounds[0] || x > bounds[1]);
    if (off !== undefined && off >= 0)
      return bad('bounds', `Row ${off + 1} has ${rows[off][col]} in “${col}”, outside of its bounds.`);
  }
  return undefined;
}

/** A word on what stands in a column of numbers and is none; it is taken as not measured. */
function strangeWords(col: string, { strange }: Column): string[] {
  if (!strange.length) return [];
  const [{ row, text }] = strange;
  const more = strange.length > 1 ? ` and ${strange.length - 1} more` : '';
  return [
    `“${text.slice(0, 30)}” in “${col}” (row ${row + 1}${more}) is no number and is taken as not measured.`,
  ];
}

/** A factor in a table: its levels, and which of them each row has; -1 where it has none. */
interface FactorIn {
  readonly col: string;
  readonly levels: readonly (string | number)[];
  readonly levelOf: readonly number[];
}

/** The levels of a factor of items, as they first come. */
function itemsOf(rows: readonly Row[], col: string): FactorIn {
  const texts = rows.map(r => r[col]?.trim() ?? '');
  const place = new Map([...new Set(texts.filter(Boolean))].map((level, i) => [level, i]));
  return { col, levels: [...place.keys()], levelOf: texts.map(t => place.get(t) ?? -1) };
}

/** The levels of a factor that is a number, in order; many different ones in groups of like ones. */
function numbersOf(values: readonly number[], col: string): FactorIn {
  const every = values.filter(Number.isFinite).sort((a, b) => a - b);
  const all = [...new Set(every)];
  if (all.length <= MOST_LEVELS) {
    const place = new Map(all.map((value, i) => [value, i]));
    return { col, levels: all, levelOf: values.map(x => place.get(x) ?? -1) };
  }
  const cuts = Array.from(
    { length: GROUPS - 1 },
    (_, i) => every[Math.floor(((i + 1) * every.length) / GROUPS)],
  );
  const edges = [every[0], ...cuts, every[every.length - 1]];
  return {
    col,
    levels: Array.from({ length: GROUPS }, (_, i) => `${edges[i]} to ${edges[i + 1]}`),
    levelOf: values.map(x => (Number.isFinite(x) ? cuts.filter(c => x >= c).length : -1)),
  };
}

function foundOf(
  analysis: Analysis,
  factors: readonly FactorIn[],
  random: readonly string[],
  { lacking, said }: { readonly lacking: number; readonly said: readonly string[] },
): Found {
  const named = (levels: Iterable<readonly [number, number]>) =>
    Object.fromEntries([...levels].map(([f, l]) => [factors[f].col, factors[f].levels[l]]));
  const name = (f: number, l: number) => `${factors[f].col} ${factors[f].levels[l]}`;
  const { fit, asked, decision } = analysis;
  const digits = (value: number) => Number(value.toPrecision(3)).toString();
  const notEstimable = analysis.notTold.map(n => ({
    what: `${factors[n.factor].col}: ${n.levels.map(l => factors[n.factor].levels[l]).join(' against ')}`,
    why: whyNot(asked, n),
  }));
  const fixed = asked.factors.flatMap((f, i) => (f.levels.length > 1 ? [i] : []));
  const ranked = decision
    ? analysis.options
        .map((levels, i) => ({ levels, ...decision.options[i] }))
        .sort((a, b) => b.best - a.best || a.loss - b.loss)
    : [];
  const sentences = [
    ...(analysis.why ? [analysis.why] : []),
    ...said,
    ...(lacking
      ? [
          `${lacking} ${agree(lacking, 'row has', 'rows have')} no level of a factor and ${agree(lacking, 'is', 'are')} left out.`,
        ]
      : []),
    ...(analysis.missing
      ? [`${analysis.missing} ${agree(analysis.missing, 'patch was', 'patches were')} not measured.`]
      : []),
    ...(decision ? [headline(analysis, digits, name)] : []),
    ...(decision ? fixed.map(f => factorSentence(analysis, f, digits, undefined, name)) : []),
    ...asked.pairs.map((_, k) => pairSentence(analysis, k, digits, name) ?? ''),
    failureSentence(analysis, name),
    ...asked.factors.flatMap((f, i) =>
      f.levels.length === 1 ? [`${factors[i].col} has one level only: nothing is compared.`] : [],
    ),
    ...checksOf(analysis, name),
  ].filter(Boolean);
  return {
    estimable: [
      ...fixed.filter(f => fit && !analysis.notTold.some(n => n.factor === f)).map(f => factors[f].col),
      ...asked.pairs.map(([a, b]) => `${factors[a].col} × ${factors[b].col}`),
    ],
    notEstimable,
    means: analysis.means.map(({ at, estimate, n }) => ({ levels: named(at), ...estimate, n })),
    differences: analysis.differences.map(({ factor, a, b, ...d }) => ({
      factor: factors[factor].col,
      a: factors[factor].levels[a],
      b: factors[factor].levels[b],
      ...d,
    })),
    variance: {
      ...Object.fromEntries(random.map((col, k) => [col, fit?.variances[k] ?? null])),
      residual: fit?.residualVariance ?? null,
    },
    failure: analysis.failing.map(({ factor, level, failed, of, chance }) => ({
      levels: named([[factor, level]]),
      ...{ failed, of },
      value: chance?.value ?? (of && !analysis.failures ? 0 : null),
      lo: chance?.lo ?? (of && !analysis.failures ? 0 : null),
      hi: chance?.hi ?? (of && !analysis.failures ? 1 - 0.05 ** (1 / of) : null),
    })),
    best: ranked.map(o => ({
      levels: named(o.levels.map((l, f) => [f, l] as const)),
      probability: o.best,
      expectedLoss: o.loss,
      ...{ value: o.value, lo: o.lo, hi: o.hi },
    })),
    sentences: sentences.map(s => write(s)),
  };
}

function whyNot(asked: Asked, { from, factor, shared }: NotTold): string {
  const own = asked.factors[factor].name;
  if (shared !== undefined) return `each had a ${shared} of its own: ${own} cannot be told from it`;
  if (!from.length) return `no measured patch has one of these levels of ${own}`;
  const others = from.map(f => asked.factors[f].name).join(' and ');
  const gone = asked.patches.filter(p => p.failed || p.value === undefined).map(p => p.code);
  return `${own} and ${others} cannot be told apart${gone.length ? ` any more: ${gone.slice(0, 8).join(', ')} ${agree(gone.length, 'is', 'are')} missing` : ''}`;
}
