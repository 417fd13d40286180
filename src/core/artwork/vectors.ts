import { modeRgb, parse, useMode as registerSpace } from 'culori/fn';
import { SaxesParser } from 'saxes';
import svgpath from 'svgpath';
import { bad, good, type Outcome } from '../outcome/index.ts';
import type { PrintSize } from './size.ts';
import type { SafeDrawing } from './svg.ts';

registerSpace(modeRgb);

export type Rgb = readonly [number, number, number];

/** Move, line, cubic curve and close, absolute. */
export type PathStep =
  | readonly ['M' | 'L', number, number]
  | readonly ['C', number, number, number, number, number, number]
  | readonly ['Z'];

/** One filled or stroked outline. Lengths are in the unit of the drawing it belongs to, colours sRGB 0–1. */
export interface VectorPath {
  readonly steps: readonly PathStep[];
  readonly fill?: Rgb;
  readonly evenOdd: boolean;
  readonly stroke?: {
    readonly colour: Rgb;
    readonly width: number;
    readonly cap: 'butt' | 'round' | 'square';
    readonly join: 'miter' | 'round' | 'bevel';
    readonly miterLimit: number;
  };
}

/** A drawing as outlines; its width is 1, its height `tall`, y down. */
export interface VectorDrawing {
  readonly tall: number;
  readonly paths: readonly VectorPath[];
}

class Beyond extends Error {}

type Look = Readonly<Record<string, string>>;

/** Properties that pass from a group to what it holds, with what they are at first. */
const INHERITED: Look = {
  fill: 'black',
  'fill-rule': 'nonzero',
  'fill-opacity': '1',
  stroke: 'none',
  'stroke-width': '1',
  'stroke-linecap': 'butt',
  'stroke-linejoin': 'miter',
  'stroke-miterlimit': '4',
  'stroke-opacity': '1',
  'stroke-dasharray': 'none',
};
/** Properties that outlines cannot follow unless they are what they are at first. */
const PLAIN: Look = {
  opacity: '1',
  filter: 'none',
  mask: 'none',
  'clip-path': 'none',
  'marker-start': 'none',
  'marker-mid': 'none',
  'marker-end': 'none',
  marker: 'none',
  visibility: 'visible',
  'mix-blend-mode': 'normal',
  'paint-order': 'normal',
  'vector-effect': 'none',
  color: 'black',
};
const GROUPS = new Set(['svg', 'g', 'a']);
const UNSEEN = new Set(['defs', 'title', 'desc', 'metadata', 'symbol', 'lineargradient', 'radialgradient']);

/**
 * The outlines of a drawing that was looked through, so that it prints as sharp as the printer can. Takes paths and
 * plain shapes with flat colours, groups and transforms; fails with what it holds beyond that (writing, shading,
 * transparency, clipping), and such a drawing is printed as pixels.
 */
export function vectorsOf(drawing: SafeDrawing): Outcome<VectorDrawing> {
  try {
    return good(walk(drawing));
  } catch (error) {
    if (error instanceof Beyond)
      return bad('not-outlines', `It is printed as pixels: it holds ${error.message}.`);
    throw error;
  }
}

function walk({ text, w, h }: SafeDrawing): VectorDrawing {
  const paths: VectorPath[] = [];
  const open: { look: Look; transforms: readonly string[]; unseen: boolean }[] = [];
  let tall = h / w;
  const parser = new SaxesParser({ xmlns: false });
  parser.on('opentag', tag => {
    const name = tag.name.toLowerCase();
    const attributes = tag.attributes as Record<string, string>;
    const parent = open.at(-1);
    const look = lookOf(attributes, parent?.look ?? INHERITED);
    const unseen =
      (parent?.unseen ?? false) || UNSEEN.has(name) || name.includes(':') || look.display === 'none';
    let transforms = parent?.transforms ?? [];
    if (!parent) {
      const root = rootOf(attributes, w, h);
      transforms = [root.transform];
      tall = root.tall;
    } else if (name === 'svg') throw new Beyond('a drawing inside the drawing');
    if (attributes.transform) transforms = [attributes.transform, ...transforms];
    open.push({ look, transforms, unseen });
    if (unseen || GROUPS.has(name)) return;
    const outline = outlineOf(name, attributes);
    if (outline) {
      const path = pathOf(outline, look, transforms);
      if (path) paths.push(path);
    }
  });
  parser.on('closetag', () => void open.pop());
  parser.write(text.replace(/^\uFEFF/, '')).close();
  return { tall, paths };
}

/** From the drawing's own units to a width of 1. */
function rootOf(attributes: Record<string, string>, w: number, h: number) {
  const box = attributes.viewBox
    ?.trim()
    .split(/[\s,]+/)
    .map(Number);
  if (box?.length !== 4) return { transform: `scale(${1 / w})`, tall: h / w };
  const [x, y, wide, high] = box;
  if (Math.abs(wide / high / (w / h) - 1) > 0.005) throw new Beyond('a drawing that does not fill its page');
  return { transform: `scale(${1 / wide}) translate(${-x} ${-y})`, tall: high / wide };
}

function lookOf(attributes: Record<string, string>, parent: Look): Look {
  const style = Object.fromEntries(
    (attributes.style ?? '')
      .split(';')
      .map(part => part.split(':').map(s => s.trim()))
      .filter(pair => pair.length === 2),
  );
  const own: Record<string, string> = {};
  for (const key of [...Object.keys(INHERITED), 'display']) {
    const value = style[key] ?? attributes[key];
    if (value !== undefined && value !== 'inherit') own[key] = value.replace(/\s*!important$/, '');
  }
  for (const [key, plain] of Object.entries(PLAIN)) {
    const value = style[key] ?? attributes[key];
    if (value !== undefined && value !== plain && value !== 'inherit' && Number(value) !== 1)
      throw new Beyond(
        key === 'opacity' ? 'see-through parts' : `“${key}”, which outlines alone cannot follow`,
      );
  }
  const { display: _, ...passedOn } = parent;
  return { ...passedOn, ...own };
}

const number = (value: string | undefined, otherwise = 0): number => {
  if (value === undefined) return otherwise;
  const n = Number(value.trim().replace(/px$/, ''));
  if (!Number.isFinite(n)) throw new Beyond(`a length of “${value.slice(0, 20)}”`);
  return n;
};

/** The outline of a shape as path data; nothing for one without extent. */
function outlineOf(name: string, a: Record<string, string>): string | undefined {
  switch (name) {
    case 'path':
      return a.d;
    case 'line':
      return `M${number(a.x1)} ${number(a.y1)}L${number(a.x2)} ${number(a.y2)}`;
    case 'polyline':
      return a.points?.trim() ? `M${a.points}` : undefined;
    case 'polygon':
      return a.points?.trim() ? `M${a.points}Z` : undefined;
    case 'circle':
    case 'ellipse': {
      const rx = number(a.rx ?? a.r);
      const ry = number(a.ry ?? a.r);
      const [cx, cy] = [number(a.cx), number(a.cy)];
      return rx > 0 && ry > 0
        ? `M${cx - rx} ${cy}A${rx} ${ry} 0 0 1 ${cx + rx} ${cy}A${rx} ${ry} 0 0 1 ${cx - rx} ${cy}Z`
        : undefined;
    }
    case 'rect': {
      const [x, y, w, h] = [number(a.x), number(a.y), number(a.width), number(a.height)];
      if (!(w > 0 && h > 0)) return undefined;
      const rx = Math.min(w / 2, number(a.rx ?? a.ry));
      const ry = Math.min(h / 2, number(a.ry ?? a.rx));
      if (!rx || !ry) return `M${x} ${y}H${x + w}V${y + h}H${x}Z`;
      const arc = (px: number, py: number) => `A${rx} ${ry} 0 0 1 ${px} ${py}`;
      return `M${x + rx} ${y}H${x + w - rx}${arc(x + w, y + ry)}V${y + h - ry}${arc(x + w - rx, y + h)}H${x + rx}${arc(x, y + h - ry)}V${y + ry}${arc(x + rx, y)}Z`;
    }
    case 'style':
      throw new Beyond('a style sheet');
    case 'text':
      throw new Beyond('writing in a font');
    default:
      throw new Beyond(`“${name}”`);
  }
}

function pathOf(d: string, look: Look, transforms: readonly string[]): VectorPath | undefined {
  const fill = colourOf(look.fill);
  const stroke = colourOf(look.stroke);
  const width = number(look['stroke-width']);
  const hasStroke = stroke !== undefined && width > 0;
  if (!fill && !hasStroke) return undefined;
  if ((fill && Number(look['fill-opacity']) !== 1) || (hasStroke && Number(look['stroke-opacity']) !== 1))
    throw new Beyond('see-through parts');
  if (hasStroke && look['stroke-dasharray'] !== 'none') throw new Beyond('dashed lines');
  const steps = stepsOf(d, transforms);
  if (!steps.length) return undefined;
  return {
    steps,
    evenOdd: look['fill-rule'] === 'evenodd',
    ...(fill ? { fill } : {}),
    ...(hasStroke
      ? {
          stroke: {
            colour: stroke,
            width: width * evenScale(transforms),
            cap: oneOf(look['stroke-linecap'], ['butt', 'round', 'square'] as const),
            join: oneOf(look['stroke-linejoin'], ['miter', 'round', 'bevel'] as const),
            miterLimit: number(look['stroke-miterlimit'], 4),
          },
        }
      : {}),
  };
}

const oneOf = <T extends string>(value: string, known: readonly T[]): T =>
  known.find(k => k === value) ?? known[0];

function colourOf(value: string): Rgb | undefined {
  if (value === 'none' || value === 'transparent') return undefined;
  const found = value === 'currentColor' ? parse('black') : parse(value);
  if (found?.mode !== 'rgb') throw new Beyond('shading or a pattern');
  if ((found.alpha ?? 1) !== 1) throw new Beyond('see-through parts');
  return [found.r, found.g, found.b];
}

/** Path data through transforms (innermost first) as absolute moves, lines and cubic curves. */
function stepsOf(d: string, transforms: readonly string[]): PathStep[] {
  const path = transforms
    .reduce((p, t) => p.transform(t), svgpath(d))
    .abs()
    .unshort()
    .unarc();
  if ((path as unknown as { err?: string }).err) throw new Beyond('a damaged outline');
  const steps: PathStep[] = [];
  path.iterate((segment, _, x, y) => {
    const s = segment as readonly [string, ...number[]];
    switch (s[0]) {
      case 'M':
      case 'L':
        steps.push([s[0], s[1], s[2]]);
        return;
      case 'H':
        steps.push(['L', s[1], y]);
        return;
      case 'V':
        steps.push(['L', x, s[1]]);
        return;
      case 'C':
        steps.push(['C', s[1], s[2], s[3], s[4], s[5], s[6]]);
        return;
      case 'Q':
        // A quadratic curve as a cubic one: its control points lie two thirds of the way.
        steps.push([
          'C',
          x + (2 / 3) * (s[1] - x),
          y + (2 / 3) * (s[2] - y),
          s[3] + (2 / 3) * (s[1] - s[3]),
          s[4] + (2 / 3) * (s[2] - s[4]),
          s[3],
          s[4],
        ]);
        return;
      default:
        steps.push(['Z']);
    }
  });
  return steps;
}

/** How much transforms enlarge; lines that would grow thicker one way than the other are beyond outlines. */
function evenScale(transforms: readonly string[]): number {
  const at = stepsOf('M0 0L1 0L0 1', transforms).map(s => [s[1] as number, s[2] as number]);
  const [ux, uy] = [at[1][0] - at[0][0], at[1][1] - at[0][1]];
  const [vx, vy] = [at[2][0] - at[0][0], at[2][1] - at[0][1]];
  const [u, v] = [Math.hypot(ux, uy), Math.hypot(vx, vy)];
  if (Math.abs(u - v) > 0.01 * u || Math.abs(ux * vx + uy * vy) > 0.01 * u * v)
    throw new Beyond('lines that are stretched one way');
  return u;
}

/** A drawing's outlines in mm from the top left of the printed picture; mirrored where it is to be. */
export function placeDrawing(
  drawing: VectorDrawing,
  { w, h, part }: PrintSize,
  mirror: boolean,
): readonly VectorPath[] {
  const scale = w / part.w;
  const down = h / (part.h * drawing.tall);
  const x = (v: number) => (mirror ? w - (v - part.x) * scale : (v - part.x) * scale);
  const y = (v: number) => (v - part.y * drawing.tall) * down;
  return drawing.paths.map(path => ({
    ...path,
    steps: path.steps.map((step): PathStep => {
      if (step[0] === 'Z') return step;
      if (step[0] === 'C')
        return ['C', x(step[1]), y(step[2]), x(step[3]), y(step[4]), x(step[5]), y(step[6])];
      return [step[0], x(step[1]), y(step[2])];
    }),
    ...(path.stroke ? { stroke: { ...path.stroke, width: path.stroke.width * scale } } : {}),
  }));
}
