import { SaxesParser } from 'saxes';
import { bad, good, type Outcome } from '../outcome/index.ts';

const MOST_LETTERS = 8_000_000;
const MOST_ELEMENTS = 60_000;
const MOST_DEPTH = 200;
const MOST_DRAWN = 200_000;
const MOST_SIDE = 20_000;

/** A drawing that was looked through; `text` may be drawn by a browser as an image. */
export interface SafeDrawing {
  readonly text: string;
  /** Its own size in CSS pixels. */
  readonly w: number;
  readonly h: number;
}

/** Kept out: anything that runs, anything foreign, anything that moves. */
const NEVER = new Set([
  'script',
  'foreignobject',
  'iframe',
  'object',
  'embed',
  'audio',
  'video',
  'animate',
  'animatetransform',
  'animatemotion',
  'set',
  'handler',
  'listener',
]);

class Refused extends Error {}

interface Found {
  w?: number;
  h?: number;
  viewBox?: number[];
  elements: number;
  /** What every element with an id holds: ids it draws again, and how many elements it has. */
  readonly holds: Map<string, { uses: string[]; size: number }>;
  readonly uses: string[];
}

/**
 * Reads an SVG as XML and refuses what a picture has no need of: scripts and handlers, references outside the file,
 * entities, foreign content, shapes that draw themselves over and over. It is only ever drawn as an image, where
 * a browser runs nothing; this is the second lock. Returns the drawing with its size, or the reason why not.
 */
export function safeDrawing(text: string): Outcome<SafeDrawing> {
  const refuse = (say: string) => bad('unsafe-svg', say, 'Save it as plain SVG, or as PNG.');
  if (text.length > MOST_LETTERS) return refuse('This drawing is too large to look through.');
  if (/<!DOCTYPE|<!ENTITY/i.test(text))
    return refuse('This drawing declares a document type, which can hide anything.');
  let found: Found;
  try {
    found = walk(text);
  } catch (error) {
    return error instanceof Refused
      ? refuse(error.message)
      : bad('broken-svg', 'This drawing is damaged: it is not well-formed XML.', 'Save it again.');
  }
  const drawn = drawnElements(found);
  if (drawn > MOST_DRAWN) return refuse('This drawing draws its own parts over and over.');
  const w = found.w ?? found.viewBox?.[2] ?? 300;
  const h =
    found.h ?? found.viewBox?.[3] ?? (found.viewBox ? (w * found.viewBox[3]) / found.viewBox[2] : 150);
  if (!(w > 0 && h > 0 && w <= MOST_SIDE && h <= MOST_SIDE))
    return refuse(`This drawing says it is ${Math.round(w)} × ${Math.round(h)} pixels large.`);
  return good({ text, w, h });
}

function walk(text: string): Found {
  const found: Found = { elements: 0, holds: new Map(), uses: [] };
  const open: { id?: string; size: number; uses: string[] }[] = [];
  const parser = new SaxesParser({ xmlns: false });
  parser.on('error', error => {
    throw error;
  });
  parser.on('processinginstruction', pi => {
    if (pi.target === 'xml-stylesheet')
      throw new Refused('This drawing brings a style sheet from elsewhere.');
  });
  parser.on('opentag', tag => {
    const name = tag.name.replace(/^.*:/, '').toLowerCase();
    if (found.elements === 0 && name !== 'svg') throw new Refused('This is XML, but no drawing.');
    if (++found.elements > MOST_ELEMENTS) throw new Refused('This drawing has too many parts.');
    if (open.length > MOST_DEPTH) throw new Refused('This drawing is nested too deeply.');
    if (NEVER.has(name)) throw new Refused(`This drawing holds “${name}”, which a picture has no need of.`);
    const attributes = tag.attributes as Record<string, string>;
    const here = { id: attributes.id, size: 1, uses: [] as string[] };
    for (const [key, value] of Object.entries(attributes))
      checkAttribute(key.toLowerCase(), value, name, here.uses, found);
    if (found.elements === 1) {
      found.w = pixels(attributes.width);
      found.h = pixels(attributes.height);
      const box = attributes.viewBox
        ?.trim()
        .split(/[\s,]+/)
        .map(Number);
      if (box?.length === 4 && box.every(Number.isFinite)) found.viewBox = box;
    }
    open.push(here);
  });
  parser.on('text', words => {
    if (/@import|url\(\s*['"]?\s*(?!#|['"]?data:image)/i.test(words))
      throw new Refused('This drawing’s styles bring something from elsewhere.');
  });
  parser.on('cdata', words => {
    if (/@import|url\(/i.test(words))
      throw new Refused('This drawing’s styles bring something from elsewhere.');
  });
  parser.on('closetag', () => {
    const closed = open.pop()!;
    const parent = open.at(-1);
    if (closed.id) found.holds.set(closed.id, { uses: closed.uses, size: closed.size });
    if (parent) {
      parent.size += closed.size;
      parent.uses.push(...closed.uses);
    } else found.uses.push(...closed.uses);
  });
  parser.write(text.replace(/^\uFEFF/, '')).close();
  if (!found.elements) throw new Refused('This drawing is empty.');
  return found;
}

function checkAttribute(key: string, value: string, name: string, uses: string[], found: Found) {
  if (/^on/.test(key)) throw new Refused('This drawing holds a program that runs on a click or on loading.');
  const isLink = key === 'href' || key.endsWith(':href') || key === 'src';
  if (isLink) {
    if (name === 'use' && value.startsWith('#')) {
      uses.push(value.slice(1));
      return;
    }
    const isInside = value.startsWith('#') || /^data:image\/(png|jpeg|webp);base64,/i.test(value);
    if (!isInside && name !== 'a') throw new Refused('This drawing brings something from outside its file.');
    if (name === 'a' && /^\s*(javascript|data):/i.test(value))
      throw new Refused('This drawing holds a program.');
  }
  if (/url\(\s*['"]?\s*(?!#)/i.test(value))
    throw new Refused('This drawing brings something from outside its file.');
  if (found.elements === 1 && key === 'viewbox' && value.length > 200)
    throw new Refused('This drawing is damaged.');
}

/** A length in CSS pixels; nothing for percentages and what cannot be read. */
function pixels(value: string | undefined): number | undefined {
  const match = value?.trim().match(/^([0-9.eE+-]+)(px|mm|cm|in|pt|pc)?$/);
  if (!match) return undefined;
  const unit = { px: 1, mm: 96 / 25.4, cm: 960 / 25.4, in: 96, pt: 96 / 72, pc: 16 }[match[2] ?? 'px']!;
  return Number(match[1]) * unit;
}

/** How many elements are drawn when every part that is used again is counted each time; endless for loops. */
function drawnElements(found: Found): number {
  const known = new Map<string, number>();
  const count = (id: string, path: readonly string[]): number => {
    if (path.includes(id) || path.length > 60) return Number.POSITIVE_INFINITY;
    const before = known.get(id);
    if (before !== undefined) return before;
    const part = found.holds.get(id);
    if (!part) return 0;
    let sum = part.size;
    for (const used of part.uses) {
      sum += count(used, [...path, id]);
      if (sum > MOST_DRAWN) break;
    }
    known.set(id, sum);
    return sum;
  };
  let sum = found.elements;
  for (const id of found.uses) {
    sum += count(id, []);
    if (sum > MOST_DRAWN) break;
  }
  return sum;
}
