import MiniSearch from 'minisearch';
import { CAUSES } from '../diagnosis/index.ts';
import { findMethod, type Method } from '../methods/index.ts';
import type { RecipeBook } from '../recipe-book/index.ts';
import { joined, many, percent, say, type Words, write } from '../say/index.ts';
import { SHELF_KINDS, type Shelf, type ShelfItem } from '../shelf/index.ts';
import type { TrialSummary } from '../summary/index.ts';
import { SYMPTOMS } from '../symptoms/index.ts';
import { unitOf } from '../trial/index.ts';

/** What can be found. */
export const FOUND_KINDS = ['trial', 'patch', 'recipe', 'material'] as const;
export type FoundKind = (typeof FOUND_KINDS)[number];

/** Something of the notebook that can be found, and what it can be narrowed down by. */
export interface Entry {
  readonly id: string;
  readonly kind: FoundKind;
  /** Its kind in words. */
  readonly says: string;
  readonly title: string;
  /** What it is about, in a line. */
  readonly about: Words;
  readonly trial?: string;
  readonly code?: string;
  readonly recipe?: string;
  readonly shelf?: string;
  readonly at: string;
  readonly methods: readonly string[];
  readonly materials: readonly string[];
  readonly symptoms: readonly string[];
  readonly causes: readonly string[];
  readonly tags: readonly string[];
  /** More words that lead to it and are not shown. */
  readonly more: string;
}

/** What the entries can be narrowed down by; nothing of a kind leaves all. */
export interface Narrowed {
  readonly kind?: FoundKind;
  readonly method?: string;
  readonly material?: string;
  readonly symptom?: string;
  readonly cause?: string;
  readonly tag?: string;
  /** A year, such as `2026`. */
  readonly year?: string;
}

const symptomName = (id: string): string =>
  (SYMPTOMS as readonly { readonly id: string; readonly name: string }[]).find(s => s.id === id)?.name ?? id;
const causeName = (id: string): string => CAUSES.find(c => c.id === id)?.name ?? id;

/**
 * Everything of a notebook that can be found: its trials, their patches, recipes and what is on the shelf.
 *
 * @example entriesOf([], [], shelf, []).every(e => e.kind === 'material'); // => true
 */
export function entriesOf(
  trials: readonly TrialSummary[],
  books: readonly RecipeBook[],
  shelf: Shelf,
  ownMethods: readonly Method[],
): Entry[] {
  const entries: Entry[] = [];
  for (const t of trials) {
    const { words } = t;
    const unit = unitOf(t);
    const shared = {
      ...{
        trial: t.id,
        at: t.createdAt,
        methods: words.methods.map(id => findMethod(id, ownMethods)?.name ?? id),
      },
      ...{ materials: words.materials, tags: t.tags },
      causes: Object.keys(t.turned).map(causeName),
    };
    entries.push({
      ...shared,
      ...{ id: t.id, kind: 'trial', says: t.real ? unit.many : 'trial', title: t.name },
      about: say`${t.question ? `${t.question} ` : ''}${many(t.patches, unit.one, unit.many)}, ${t.read} read.`,
      symptoms: [...new Set(words.patches.flatMap(p => p.symptoms))].map(symptomName),
      more: `${t.code} ${words.notes}`,
    });
    for (const p of words.patches)
      entries.push({
        ...shared,
        ...{ id: `${t.id}/${p.code}`, kind: 'patch', says: unit.one, title: p.code, code: p.code },
        about: say`${p.levels}${p.landed === null ? '' : say`, ${percent(p.landed, { places: 0 })} landed`} · ${t.name}`,
        symptoms: p.symptoms.map(symptomName),
        more: '',
      });
  }
  for (const { id, now, versions } of books)
    entries.push({
      ...{ id, kind: 'recipe', says: 'recipe', title: now.name, recipe: id, at: versions.at(-1)!.at },
      // What it is made with and how long it waits; how hands go about it is read on its card.
      about: said(now.card.choices.slice(0, SHOWN)),
      methods: [now.method.name],
      materials: Object.values(now.items).flatMap(item => (item ? [item.name] : [])),
      ...{ symptoms: [], causes: [], tags: [], more: write(said(now.card.choices.slice(SHOWN))) },
    });
  for (const kind of SHELF_KINDS)
    for (const item of shelf[kind] as readonly (ShelfItem & { readonly kind?: string })[])
      entries.push({
        ...{
          id: `${kind}/${item.id}`,
          kind: 'material',
          says: 'on the shelf',
          title: item.name,
          shelf: kind,
          at: '',
        },
        about: item.kind ?? '',
        materials: [item.name],
        ...{ methods: [], symptoms: [], causes: [], tags: [], more: '' },
      });
  return entries;
}

/** So many choices of a recipe are shown: printer, donor, medium, substrate, preparation, wait. */
const SHOWN = 6;
const said = (choices: RecipeBook['now']['card']['choices']): Words =>
  joined(
    choices.map(c => c.choice),
    ', ',
  );

/** A notebook made ready to be searched. */
export interface Notebook {
  readonly entries: readonly Entry[];
  readonly index: MiniSearch<Entry>;
}

const FIELDS = ['title', 'about', 'methods', 'materials', 'symptoms', 'causes', 'tags', 'more'] as const;

/** Makes entries ready to be searched as one types: by beginnings of words, with a slip of the finger forgiven. */
export function notebookOf(entries: readonly Entry[]): Notebook {
  const index = new MiniSearch<Entry>({
    fields: [...FIELDS],
    extractField: (entry, field) => {
      if (field === 'about') return write(entry.about);
      const value = entry[field as Exclude<keyof Entry, 'about'>];
      return Array.isArray(value) ? value.join(' ') : String(value ?? '');
    },
    searchOptions: {
      prefix: true,
      // Short words are mistyped less often than they are others.
      fuzzy: term => (term.length > 4 ? 0.2 : false),
      boost: { title: 4, tags: 2 },
      combineWith: 'AND',
    },
  });
  index.addAll(entries);
  return { entries, index };
}

const fits = (e: Entry, n: Narrowed): boolean =>
  (!n.kind || e.kind === n.kind) &&
  (!n.method || e.methods.includes(n.method)) &&
  (!n.material || e.materials.includes(n.material)) &&
  (!n.symptom || e.symptoms.includes(n.symptom)) &&
  (!n.cause || e.causes.includes(n.cause)) &&
  (!n.tag || e.tags.includes(n.tag)) &&
  (!n.year || e.at.startsWith(n.year));

/**
 * What fits words and what it was narrowed down to: with words the best first, without them the newest, patches after
 * their trials.
 */
export function findIn({ entries, index }: Notebook, words: string, narrowed: Narrowed = {}): Entry[] {
  if (!words.trim())
    return entries
      .filter(e => fits(e, narrowed) && (narrowed.kind === 'patch' || e.kind !== 'patch'))
      .sort((a, b) => b.at.localeCompare(a.at));
  const byId = new Map(entries.map(e => [e.id, e]));
  return index
    .search(words)
    .map(hit => byId.get(hit.id as string)!)
    .filter(e => fits(e, narrowed));
}

/** What entries can be narrowed down by: the names that are there, each once, in order. */
export function choicesOf(entries: readonly Entry[]) {
  const all = (of: (e: Entry) => readonly string[]) =>
    [...new Set(entries.flatMap(of))].filter(Boolean).sort((a, b) => a.localeCompare(b));
  // What only lies on the shelf narrows nothing down.
  const used = entries.filter(e => e.kind !== 'material');
  const inUse = (of: (e: Entry) => readonly string[]) =>
    [...new Set(used.flatMap(of))].sort((a, b) => a.localeCompare(b));
  return {
    methods: all(e => e.methods),
    materials: inUse(e => e.materials),
    symptoms: all(e => e.symptoms),
    causes: all(e => e.causes),
    tags: all(e => e.tags),
    years: [...new Set(entries.map(e => e.at.slice(0, 4)))].filter(Boolean).sort().reverse(),
  };
}
