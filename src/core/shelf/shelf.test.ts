import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { said } from '../say/testing.ts';
import {
  checkItem,
  colourFrom,
  copyOf,
  DONOR_KINDS,
  FINISH_KINDS,
  hexOf,
  itemId,
  labOf,
  MEDIUM_KINDS,
  PREPARATION_KINDS,
  readShelfCsv,
  SHELF_FIELDS,
  SHELF_KINDS,
  STARTER_SHELF,
  SUBSTRATE_KINDS,
  search,
  shelfCsv,
  TOOL_KINDS,
} from './index.ts';

describe('the starter shelf', () => {
  it('has every kind of thing', () => {
    const kinds = (items: readonly { kind: string }[]) => new Set(items.map(i => i.kind));
    for (const k of DONOR_KINDS) expect(kinds(STARTER_SHELF.donors)).toContain(k);
    for (const k of MEDIUM_KINDS) expect(kinds(STARTER_SHELF.mediums)).toContain(k);
    for (const k of SUBSTRATE_KINDS) expect(kinds(STARTER_SHELF.substrates)).toContain(k);
    for (const k of PREPARATION_KINDS) expect(kinds(STARTER_SHELF.preparations)).toContain(k);
    for (const k of TOOL_KINDS) expect(kinds(STARTER_SHELF.tools)).toContain(k);
    for (const k of FINISH_KINDS) expect(kinds(STARTER_SHELF.finishes)).toContain(k);
  });

  it.each(SHELF_KINDS)('asks for every property of %s', kind => {
    const asked = new Set(['id', ...SHELF_FIELDS[kind].map(f => f.key)]);
    for (const item of STARTER_SHELF[kind]) {
      for (const key of Object.keys(item)) expect(asked).toContain(key);
      expect(checkItem(kind, item).ok).toBe(true);
    }
  });
});

describe('a table of the shelf', () => {
  it.each(SHELF_KINDS)('brings back all %s without loss', kind => {
    const back = readShelfCsv(kind, shelfCsv(kind, STARTER_SHELF[kind] as never), []);
    expect(back.ok && back.value).toEqual(STARTER_SHELF[kind]);
  });

  it('fills in an id and the usual values', () => {
    const back = readShelfCsv(
      'mediums',
      'name,openMin,dryHours,rewets,grip,densityGPerMl,jarMl,jarPrice\nSea glue,4,8,"0,2",0.9,1.1,200,6\n',
      ['sea-glue'],
    );
    expect(back.ok && back.value[0]).toMatchObject({
      id: 'sea-glue-2',
      rewets: 0.2,
      film: 'closed',
      batch: '',
    });
  });

  it.each([
    ['a strange column', 'name,colour of the sea\nx,1\n', /“colour of the sea”/],
    ['no name', 'colourant,dpi\ntoner,600\n', /“name” is missing/],
    [
      'a word where a number belongs',
      'name,colourant,pricePerPage\nOld one,toner,cheap\n',
      /Line 2: Cost of a page/,
    ],
    ['a choice that does not exist', 'name,colourant,pricePerPage\nOld one,blood,1\n', /Line 2: Colourant/],
    ['the same id twice', 'id,name,colourant,pricePerPage\na,A,toner,1\na,B,toner,1\n', /Line 3: the id “a”/],
    ['nothing', 'name\n', /no items/],
    ['more letters than a shelf', `name\n${'x'.repeat(6e6)}`, /too big/],
    ['more rows than a shelf', `name,pricePerPage\n${'A,1\n'.repeat(30_000)}`, /More than \d+ rows/],
    ['a row that is too long', 'name,colourant\nA,toner,1,2,3\n', /^Line 2: /],
    ['an open quote', 'name,colourant,pricePerPage\n"A,toner,1\n', /Line \d: Quoted/],
  ])('with %s is refused with a sentence', (_, csv, words) => {
    const back = readShelfCsv('printers', csv, []);
    expect(said(!back.ok && back.problem.say)).toMatch(words);
  });

  it('cannot trick a spreadsheet', () => {
    const csv = shelfCsv('tools', [
      { id: 'x', name: '=cmd()', note: '', kind: 'spoon', washMin: 0, holds: 1 },
    ]);
    expect(csv).toContain("'=cmd()");
    const back = readShelfCsv('tools', csv, []);
    expect(back.ok && back.value[0].name).toBe('=cmd()');
  });
});

describe('items', () => {
  it('get ids from their names, never twice', () => {
    expect(itemId('Gel, clair (été)', [])).toBe('gel-clair-ete');
    fc.assert(
      fc.property(fc.array(fc.string(), { maxLength: 20 }), names => {
        const ids: string[] = [];
        for (const name of names) ids.push(itemId(name, ids));
        expect(new Set(ids).size).toBe(ids.length);
        for (const id of ids) expect(id).toMatch(/^[a-z0-9-]{1,40}$/);
      }),
    );
  });

  it('are copied under a name that says so', () => {
    const copy = copyOf(STARTER_SHELF.mediums[0], ['matte-acrylic']);
    expect(copy.name).toBe('Matte acrylic medium (copy)');
    expect(copy.id).toBe('matte-acrylic-medium-copy');
  });

  it('are found by words in any order', () => {
    expect(search(STARTER_SHELF.mediums, 'gel SOFT').map(m => m.id)).toEqual(['soft-gel']);
    expect(search(STARTER_SHELF.mediums, 'whale')).toEqual([]);
  });

  it('that are wrong are named by the field', () => {
    const bad = checkItem('donors', { ...STARTER_SHELF.donors[0], gsm: 9000 });
    expect(said(!bad.ok && bad.problem.say)).toBe('Weight: At most 400.');
    const missing = checkItem('donors', { ...STARTER_SHELF.donors[0], gsm: undefined });
    expect(said(!missing.ok && missing.problem.say)).toBe('Weight: is missing.');
  });
});

describe('a colour', () => {
  it('comes from hex, a name or CSS, and goes back to hex', () => {
    for (const words of ['#c9a87a', '#123', 'tan', 'rgb(201 168 122)', 'hsl(30 40% 60%)']) {
      const colour = colourFrom(words);
      expect(colour.ok).toBe(true);
    }
    const back = colourFrom('#c9a87a');
    expect(back.ok && hexOf(back.value)).toBe('#c9a87a');
    const none = colourFrom('driftwood');
    expect(said(!none.ok && none.problem.say)).toMatch(/not a colour/);
  });

  it('has the lightness that CIE gives for middle grey', () => {
    const grey = colourFrom('#777777');
    expect(grey.ok && labOf(grey.value).l).toBeCloseTo(50.03, 1);
  });
});
