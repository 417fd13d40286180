import { useEffect, useMemo } from 'react';
import { write } from '../../core/say/index.ts';
import type { Mark, Page, Sheets } from '../../core/sheets/index.ts';
import { Box } from './kit.tsx';
import { Said } from './settings.tsx';

/** A page of a file as it will be printed, before it is. */
export function PagePreview({ sheets, page, name }: { sheets: Sheets; page: Page; name: string }) {
  const urls = useMemo(
    () =>
      new Map(
        Object.entries(sheets.images ?? {}).map(([key, bytes]) => [
          key,
          URL.createObjectURL(new Blob([bytes as BlobPart])),
        ]),
      ),
    [sheets.images],
  );
  useEffect(
    () => () => {
      for (const url of urls.values()) URL.revokeObjectURL(url);
    },
    [urls],
  );
  const { x, y } = page.correct;
  return (
    <Box borderWidth="1px" borderColor="border.emphasized" bg="white" maxW="34rem">
      <svg
        viewBox={`0 0 ${page.w} ${page.h}`}
        width="100%"
        role="img"
        aria-label={name}
        style={{ display: 'block' }}
      >
        <rect width={page.w} height={page.h} fill="#fff" />
        <g transform={`scale(${x} ${y})`}>
          {page.marks.map((mark, i) => (
            <Drawn key={i} mark={mark} urls={urls} />
          ))}
        </g>
      </svg>
    </Box>
  );
}

const ink = (colour: readonly [number, number, number] | undefined) =>
  colour ? `rgb(${colour.map(v => Math.round(v * 255)).join()})` : 'none';
const tint = (grey: number) => `rgb(${grey},${grey},${grey})`;

function Drawn({ mark, urls }: { mark: Mark; urls: ReadonlyMap<string, string> }) {
  switch (mark.kind) {
    case 'shape':
      return (
        <polygon
          points={mark.points.map(p => p.map(v => v.toFixed(2)).join(',')).join(' ')}
          fill={tint(mark.grey)}
        />
      );
    case 'line':
      return (
        <line
          x1={mark.from[0]}
          y1={mark.from[1]}
          x2={mark.to[0]}
          y2={mark.to[1]}
          stroke={tint(mark.grey)}
          strokeWidth={mark.mm}
        />
      );
    case 'image':
      return (
        <image
          href={urls.get(mark.key)}
          x={mark.x}
          y={mark.y}
          width={mark.w}
          height={mark.h}
          preserveAspectRatio="none"
        />
      );
    case 'drawing':
      return (
        <svg
          aria-hidden="true"
          x={mark.x}
          y={mark.y}
          width={mark.w}
          height={mark.h}
          viewBox={`0 0 ${mark.w} ${mark.h}`}
        >
          {mark.paths.map((path, i) => (
            <path
              key={i}
              d={path.steps.map(step => step.join(' ')).join('')}
              fill={ink(path.fill)}
              fillRule={path.evenOdd ? 'evenodd' : 'nonzero'}
              stroke={ink(path.stroke?.colour)}
              strokeWidth={path.stroke?.width}
              strokeLinecap={path.stroke?.cap}
              strokeLinejoin={path.stroke?.join}
              strokeMiterlimit={path.stroke?.miterLimit}
            />
          ))}
        </svg>
      );
    case 'text': {
      const size = mark.mm * 1.35;
      const wide = write(mark.words).length * size * 0.52 > mark.most;
      return (
        <text
          x={mark.x}
          y={mark.y}
          fill={tint(mark.grey)}
          style={{ fontSize: `${size}px`, fontWeight: mark.bold ? 700 : 400 }}
          {...(wide ? { textLength: mark.most, lengthAdjust: 'spacingAndGlyphs' as const } : {})}
        >
          <Said>{mark.words}</Said>
        </text>
      );
    }
  }
}
