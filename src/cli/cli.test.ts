import { spawnSync } from 'node:child_process';
import {
  existsSync,
  linkSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { bad } from '../core/outcome/index.ts';
import { card, target } from '../core/print/index.ts';
import { STARTER_SHELF } from '../core/shelf/index.ts';
import { exampleHistory } from '../core/simulator/example.ts';
import { photograph, simulateProcess } from '../core/simulator/index.ts';
import { inManyHands } from '../workers/many-hands.ts';
import { statusOf } from './command.ts';
import { main as explain } from './explain.ts';
import { main as findings } from './findings.ts';
import { main as makeKit } from './kit.ts';
import { encodeJpeg } from './node-image.ts';
import { main as read } from './read.ts';
import { readersBeside } from './read-hands.ts';

const dir = mkdtempSync(join(tmpdir(), 'wet-test-cli-'));
afterAll(() => rmSync(dir, { recursive: true, force: true }));
const kit = join(dir, 'kit');
const COMMANDS = { kit: makeKit, read, findings, explain };
/** Runs a command in this process, as starting its file would. */
async function run(name: keyof typeof COMMANDS, ...args: string[]) {
  const lines = { out: '', err: '' };
  const out = vi.spyOn(console, 'log').mockImplementation(words => {
    lines.out += `${words}\n`;
  });
  const err = vi.spyOn(console, 'error').mockImplementation(words => {
    lines.err += `${words}\n`;
  });
  try {
    return { status: await statusOf(COMMANDS[name], args), stdout: lines.out, stderr: lines.err };
  } finally {
    out.mockRestore();
    err.mockRestore();
  }
}
const spawned = (script: string, ...args: string[]) =>
  spawnSync(process.execPath, ['--import', 'tsx', `src/cli/${script}.ts`, ...args], { encoding: 'utf8' });

beforeAll(async () => {
  await run('kit', kit, '--size', '40');
  const [substrate] = STARTER_SHELF.substrates;
  const [preparation] = STARTER_SHELF.preparations;
  const piece = simulateProcess(exampleHistory({ driedHours: 24, seed: 44 }));
  const shot = photograph(piece, target(40), card(40), substrate, preparation, {
    seed: 9,
    stage: 'dry',
    pxPerMm: 10,
  });
  writeFileSync(join(dir, 'patch.jpg'), await encodeJpeg(shot.photo, 85));
  writeFileSync(join(dir, 'truth.json'), JSON.stringify({ landed: shot.landed, veil: shot.veil }));
  writeFileSync(join(dir, 'words.jpg'), 'not a picture');
});

describe('the kit', () => {
  it('has the six files, and the card says in mm what its picture shows', async () => {
    for (const name of [
      'card.json',
      'card.png',
      'card.pdf',
      'target.json',
      'target.png',
      'target-mirrored.pdf',
    ])
      expect(existsSync(join(kit, name)), name).toBe(true);
    const told = JSON.parse(readFileSync(join(kit, 'card.json'), 'utf8'));
    expect(told.unit).toBe('mm');
    expect(told.markers).toHaveLength(6);
    const { width, height } = await sharp(join(kit, 'card.png')).metadata();
    expect(width! / told.page.w).toBeGreaterThanOrEqual(24);
    expect(height! / told.page.h).toBeCloseTo(width! / told.page.w, 2);
    // The window is filled mid-grey, and every grey patch has its value.
    const { data, info } = await sharp(join(kit, 'card.png'))
      .greyscale()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const at = (x: number, y: number) =>
      data[
        Math.round((y / told.page.h) * info.height) * info.width + Math.round((x / told.page.w) * info.width)
      ];
    expect(at(told.window.x + told.window.w / 2, told.window.y + told.window.h / 2)).toBeCloseTo(128, -1);
    for (const g of told.greys) expect(at(g.x + g.w / 2, g.y + g.h / 2)).toBe(g.value);
    expect(JSON.parse(readFileSync(join(kit, 'target.json'), 'utf8')).size).toEqual({ w: 40, h: 40 });
    expect((await PDFDocument.load(readFileSync(join(kit, 'target-mirrored.pdf')))).getPageCount()).toBe(1);
  });

  it.each([[[]], [[join(dir, 'x'), '--size', '7']]])('asked for with %j says how to ask', async args => {
    const { status, stderr } = await run('kit', ...args);
    expect(status).toBe(2);
    expect(stderr).toContain('npm run kit -- DIR');
  });
});

describe('the kit of a board and of patches that are not square', () => {
  it('has four corner pieces outside the board, each as large as it says, with markers and greys where they lie', async () => {
    const there = join(dir, 'boards');
    expect((await run('kit', there, '--size', '60x40', '--board', '230x180')).status).toBe(0);
    const told = JSON.parse(readFileSync(join(there, 'corners.json'), 'utf8'));
    expect([told.unit, told.pieces.length, told.markers.length]).toEqual(['mm', 4, 4]);
    for (const [i, { file, size, at }] of told.pieces.entries()) {
      const { data, info } = await sharp(join(there, file))
        .greyscale()
        .raw()
        .toBuffer({ resolveWithObject: true });
      expect(info.width / size.w).toBeGreaterThanOrEqual(24);
      const value = (x: number, y: number) =>
        data[Math.round((y - at.y) * 24) * info.width + Math.round((x - at.x) * 24)];
      // Nothing of the board is covered.
      expect(at.x + size.w <= 0 || at.x >= 230 || at.y + size.h <= 0 || at.y >= 180).toBe(true);
      const m = told.markers[i];
      expect([value(m.x + 0.5, m.y + 0.5), value(m.x - 1, m.y + 1)]).toEqual([0, 255]);
      for (const g of told.greys.slice(i * 3, i * 3 + 3))
        expect(value(g.x + g.w / 2, g.y + g.h / 2)).toBe(g.value);
    }
    expect(JSON.parse(readFileSync(join(there, 'target.json'), 'utf8')).size).toEqual({ w: 60, h: 40 });
    expect(JSON.parse(readFileSync(join(there, 'card.json'), 'utf8')).window).toMatchObject({ w: 66, h: 46 });
    expect((await run('kit', join(dir, 'none'), '--board', '20x20')).status).toBe(2);
  });

  it('reads a whole board, each patch against its own picture where it has one', async () => {
    const out = join(dir, 'board.json');
    const fixtures = 'src/core/reading/fixtures';
    const board = JSON.parse(readFileSync(join(fixtures, 'board.json'), 'utf8'));
    writeFileSync(join(dir, 'own.png'), readFileSync(join(kit, 'target.png')));
    board.patches[1].reference = 'own.png';
    writeFileSync(join(dir, 'plan.json'), JSON.stringify(board));
    const args = [join(fixtures, 'board.jpg'), join(dir, 'words.jpg'), '--kit', kit, '--out', out];
    expect((await run('read', ...args, '--board', join(dir, 'plan.json'))).status).toBe(0);
    const [one, none] = JSON.parse(readFileSync(out, 'utf8'));
    const truth = JSON.parse(readFileSync(join(fixtures, 'board-truth.json'), 'utf8'));
    expect(one.patches.map((p: { code: string }) => p.code)).toEqual(
      truth.map((p: { code: string }) => p.code),
    );
    for (const [i, p] of one.patches.entries()) expect(Math.abs(p.landed - truth[i].landed)).toBeLessThan(3);
    expect(none).toMatchObject({ ok: false, refusal: { code: 'not-a-picture' } });
    writeFileSync(join(dir, 'wrong.json'), '{"unit":"inch"}');
    expect(await run('read', ...args, '--board', join(dir, 'wrong.json'))).toMatchObject({ status: 2 });
  });
});

describe('readers beside the first', () => {
  it('are none on one core, and leave what they did not do when they end', async () => {
    expect(readersBeside(24, 1).hands).toEqual([]);
    const { hands, end } = readersBeside(24, 2);
    expect(hands).toHaveLength(1);
    end();
    const notAsked = { cut: {} as never };
    const here = bad('failed', 'Done by the first.');
    expect(await inManyHands([notAsked, notAsked], hands, () => here)).toEqual([here, here]);
  });

  it('read photos as one alone does, in the order they were given', async () => {
    const [alone, many] = [join(dir, 'alone.json'), join(dir, 'many.json')];
    const [patch, words] = [join(dir, 'patch.jpg'), join(dir, 'words.jpg')];
    expect((await run('read', patch, '--kit', kit, '--out', alone)).status).toBe(0);
    const { status, stdout } = await run('read', words, patch, words, patch, '--kit', kit, '--out', many);
    expect(status).toBe(0);
    const [one] = JSON.parse(readFileSync(alone, 'utf8'));
    const all = JSON.parse(readFileSync(many, 'utf8'));
    expect([all[1], all[3]]).toEqual([one, one]);
    expect([all[0], all[2]].map(r => [r.file, r.refusal.code])).toEqual([
      [words, 'not-a-picture'],
      [words, 'not-a-picture'],
    ]);
    expect(stdout.match(/landed \d/g)).toHaveLength(2);
  });
});

describe('the reader', () => {
  it('writes one object a photo: a reading near the truth, and a refusal in words for what is no picture', async () => {
    const out = join(dir, 'out.json');
    const { status, stdout } = await run(
      'read',
      join(dir, 'patch.jpg'),
      join(dir, 'words.jpg'),
      '--kit',
      kit,
      '--out',
      out,
    );
    expect(status).toBe(0);
    expect(stdout).toMatch(/landed \d/);
    const [good, bad] = JSON.parse(readFileSync(out, 'utf8'));
    const truth = JSON.parse(readFileSync(join(dir, 'truth.json'), 'utf8'));
    expect(good.ok).toBe(true);
    expect(Math.abs(good.landed - truth.landed)).toBeLessThan(6);
    expect(Math.abs(good.veil - truth.veil)).toBeLessThan(0.08);
    expect(good).toMatchObject({ mirrored: false, turn: 0, smearAlong: null });
    // On a strong grain no smear may be said.
    expect([0, null]).toContain(good.smear);
    for (const key of ['deltaL', 'deltaC', 'tone']) expect(Number.isFinite(good[key]), key).toBe(true);
    expect(bad).toMatchObject({ ok: false, landed: null, refusal: { code: 'not-a-picture' } });
    expect(Object.keys(bad).sort()).toEqual(
      expect.arrayContaining(['bare', 'detail', 'file', 'quality', 'stain', 'tone']),
    );
  });

  it('gives no veil of a wet photo', async () => {
    const out = join(dir, 'wet.json');
    await run('read', join(dir, 'patch.jpg'), '--kit', kit, '--out', out, '--stage', 'wet');
    expect(JSON.parse(readFileSync(out, 'utf8'))[0].veil).toBeNull();
  });

  it('says what is missing: photos, a kit, a file to write, a stage there is', async () => {
    for (const args of [
      [join(dir, 'patch.jpg'), '--kit', kit],
      [join(dir, 'patch.jpg'), '--kit', kit, '--out', 'x.json', '--stage', 'soggy'],
    ])
      expect(await run('read', ...args)).toMatchObject({
        status: 2,
        stderr: expect.stringContaining('npm run read -- PHOTO'),
      });
    const none = await run(
      'read',
      join(dir, 'patch.jpg'),
      '--kit',
      join(dir, 'nowhere'),
      '--out',
      join(dir, 'x.json'),
    );
    expect(none.status).toBe(2);
    expect(none.stderr).toContain('is not a kit');
    const blank = await run(
      'read',
      join(dir, 'patch.jpg'),
      '--kit',
      kit,
      '--out',
      join(dir, 'x.json'),
      '--blank',
      join(dir, 'words.jpg'),
    );
    expect(blank.stderr).toContain('cannot be opened as a picture');
  });
});

describe('findings', () => {
  const roles = join(dir, 'roles.json');
  const data = join(dir, 'data.csv');
  const out = join(dir, 'out.json');
  const csv = [
    'medium,board,score',
    ...['a', 'b', 'c'].flatMap((b, i) => [`matte,${b},${70 + i}`, `gel,${b},${84 + [0, 3, 0][i]}`]),
  ];

  it('come from a table and its roles, a sentence a line and all of it as JSON', async () => {
    writeFileSync(data, csv.join('\n'));
    writeFileSync(
      roles,
      JSON.stringify({
        factors: { medium: 'items' },
        responses: [{ col: 'score', better: 'high', bounds: [0, 100] }],
        random: ['board'],
      }),
    );
    const { status, stdout } = await run('findings', data, '--roles', roles, '--out', out);
    expect(status).toBe(0);
    expect(stdout).toMatch(/^score: Take medium gel: \d\d % sure\./);
    const { score } = JSON.parse(readFileSync(out, 'utf8'));
    expect(score.differences[0]).toMatchObject({ factor: 'medium', a: 'matte', b: 'gel' });
    expect(score.differences[0].value).toBeCloseTo(-14, 9);
    expect(score.sentences[0]).toBe(stdout.split('\n')[0].slice('score: '.length));
  });

  it('say what is wrong with what they are given', async () => {
    const stopped = async (...args: string[]) => {
      const { status, stderr } = await run('findings', ...args);
      expect(status).toBe(2);
      return stderr.trim();
    };
    writeFileSync(join(dir, 'broken.json'), '{');
    expect(await stopped(join(dir, 'gone.csv'), '--roles', roles, '--out', out)).toMatch(
      /gone\.csv cannot be opened\.$/,
    );
    expect(await stopped(data, '--roles', join(dir, 'broken.json'), '--out', out)).toMatch(/is not JSON\.$/);
  });
});

describe('failures told in words', () => {
  it('are explained one by one, and what cannot be is said', async () => {
    const file = join(dir, 'cases.json');
    const out = join(dir, 'explained.json');
    const cases = [
      { id: 'a', method: 'wet-rub', reading: { landed: 97, veil: 0.4 }, symptoms: ['veil'] },
      { id: 'b', method: 'wet-rub', reading: { landed: 98, veil: 0.02 } },
    ];
    writeFileSync(file, JSON.stringify({ cases }));
    const told = await run('explain', file, '--out', out);
    expect(told.stdout).toMatch(/^a: not-enough-rounds, \d\d %\nb: nothing that is known\n$/);
    const found = JSON.parse(readFileSync(out, 'utf8'));
    expect(found.map((f: { id: string }) => f.id)).toEqual(['a', 'b']);
    expect(found[0].causes[0]).toMatchObject({ id: 'not-enough-rounds' });
    // What a number is of is for people; other programs read words.
    expect(found[0].causes[0].for.join()).toMatch(/There is a clear veil \(0\.40\)\./);
    expect(found[0].ask[0].question).toMatch(/^check:/);
    for (const [text, words] of [
      ['no', /is not JSON/],
      ['{}', /has no list/],
      ['{"cases":[{"id":"x","method":"spell"}]}', /“spell” is not known/],
    ] as const) {
      writeFileSync(file, text);
      const bad = await run('explain', file, '--out', out);
      expect([bad.status, bad.stderr]).toEqual([2, expect.stringMatching(words)]);
    }
    expect((await run('explain')).status).toBe(2);
  });
});

describe('a command that is started', () => {
  it('says how it is used and ends with 2, whatever was wrong', () => {
    const { status, stderr } = spawned('explain', '--no-such-option');
    expect([status, stderr.split('\n')[0]]).toEqual([2, expect.stringContaining('no-such-option')]);
    expect(spawned('kit').status).toBe(2);
  });
});

describe('a command that would harm what it reads', () => {
  const there = mkdtempSync(join(tmpdir(), 'wet-test-out-'));
  afterAll(() => rmSync(there, { recursive: true, force: true }));
  const at = (name: string, text?: string) => {
    if (text !== undefined) writeFileSync(join(there, name), text);
    return join(there, name);
  };
  const table = 'medium,score\nmatte,4\nmatte,5\ngel,2\ngel,3\n';
  const roles = JSON.stringify({
    factors: { medium: 'items' },
    responses: [{ col: 'score', better: 'high' }],
  });
  const text = (name: string) => readFileSync(at(name), 'utf8');

  it('is refused before it begins, under whatever name its input goes, and nothing is changed', async () => {
    const [data, told] = [at('data.csv', table), at('roles.json', roles)];
    linkSync(data, at('twin.csv'));
    symlinkSync(data, at('link.csv'));
    const refused: [string, ...string[]][] = [
      ['findings', data, '--roles', told, '--out', data],
      ['findings', data, '--roles', told, '--out', told],
      ['findings', data, '--roles', told, '--out', `${there}/../${basename(there)}/data.csv`],
      ['findings', data, '--roles', told, '--out', at('twin.csv')],
      ['findings', data, '--roles', told, '--out', at('link.csv')],
      ['explain', at('cases.json', '{"cases":[]}'), '--out', at('cases.json')],
    ];
    for (const [name, ...args] of refused) {
      const { status, stderr } = await run(name as 'findings' | 'explain', ...args);
      expect([args.at(-1), status, stderr]).toEqual([
        args.at(-1),
        2,
        expect.stringContaining('would be overwritten'),
      ]);
    }
    expect([text('data.csv'), text('roles.json'), text('cases.json')]).toEqual([
      table,
      roles,
      '{"cases":[]}',
    ]);
    const kit = at('kit');
    expect((await run('kit', kit)).status).toBe(0);
    const card = readFileSync(join(kit, 'card.json'));
    for (const out of [join(kit, 'card.json'), join(kit, 'target.png'), join(kit, 'card.png')]) {
      const { status } = await run('read', join(kit, 'card.png'), '--kit', kit, '--out', out);
      expect([out, status]).toEqual([out, 2]);
    }
    expect(readFileSync(join(kit, 'card.json'))).toEqual(card);
  });

  it('writes its result whole or not at all, and leaves nothing beside it', async () => {
    const [data, told] = [at('data.csv', table), at('roles.json', roles)];
    const out = at('out.json', 'before');
    expect((await run('findings', data, '--roles', told, '--out', out)).status).toBe(0);
    expect(JSON.parse(text('out.json')).score.estimable).toEqual(['medium']);
    for (const [place, words] of [
      [there, /is a folder/],
      [join(there, 'none', 'out.json'), /folder of .* is not there/],
    ] as const) {
      const { status, stderr } = await run('findings', data, '--roles', told, '--out', place);
      expect([status, stderr]).toEqual([2, expect.stringMatching(words)]);
    }
    expect(readdirSync(there).filter(name => name.startsWith('.'))).toEqual([]);
  });

  it('says what is wrong with a file it cannot read: a folder, one that is not there, no text, no JSON', async () => {
    const data = at('data.csv', table);
    const told = at('roles.json', roles);
    const findings = (d: string, r: string) => run('findings', d, '--roles', r, '--out', at('o.json'));
    for (const [d, r, words] of [
      [there, told, /is a folder/],
      [at('none.csv'), told, /cannot be opened/],
      [data, at('none.json'), /none\.json cannot be opened/],
      [data, there, /is a folder/],
      [data, at('odd.json', '{'), /odd\.json is not JSON/],
      [at('zero.csv', 'a\0b'), told, /no text file/],
    ] as const) {
      const { status, stderr } = await findings(d, r);
      expect([status, stderr]).toEqual([2, expect.stringMatching(words)]);
    }
    // As a spreadsheet saves it.
    writeFileSync(at('wide.csv'), Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(table, 'utf16le')]));
    expect((await findings(at('wide.csv'), told)).status).toBe(0);
  });

  it('ends with 1 where none of the photos could be opened at all', async () => {
    const kit = at('kit');
    const words = at('words.jpg', 'no picture');
    const none = await run('read', words, words, '--kit', kit, '--out', at('none.json'));
    expect(none.status).toBe(1);
    expect(JSON.parse(text('none.json'))).toHaveLength(2);
    // One that was opened, and in which nothing is found, is an answer.
    expect(
      (await run('read', words, join(kit, 'card.png'), '--kit', kit, '--out', at('one.json'))).status,
    ).toBe(0);
  });
});
