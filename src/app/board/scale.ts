import { createContext, type RefObject, useContext, useEffect, useState } from 'react';

/** How many pixels of the screen one mm of a board takes; nothing before it is known. */
const Scale = createContext<number | undefined>(undefined);
export const ScaleProvider = Scale.Provider;

/** Measures a drawing that is as large as fits: pixels per unit of its view box, of this width and height. */
export function useScaleOf(
  svg: RefObject<SVGSVGElement | null>,
  width: number,
  height: number,
): number | undefined {
  const [scale, setScale] = useState<number>();
  useEffect(() => {
    if (!svg.current) return;
    const watching = new ResizeObserver(([{ contentRect: r }]) =>
      setScale(Math.min(r.width / width, r.height / height)),
    );
    watching.observe(svg.current);
    return () => watching.disconnect();
  }, [svg, width, height]);
  return scale;
}

/** Writing smaller than this, px, is not read on a phone in the hand. */
const LEGIBLE_PX = 11;
const LEAST_PX = 9.5;

/** Sizes of writing on a board, mm, on the screen as it is. */
export interface Writing {
  /** As large as it is meant, or as legible as room for it (`most`) allows. */
  headed(mm: number, most: number): number;
  /** As large as it is meant, and never too small to be read. */
  small(mm: number): number;
}

/** Sizes of writing on the board that is round this. */
export function useWriting(): Writing {
  const scale = useContext(Scale) ?? Number.POSITIVE_INFINITY;
  return {
    headed: (mm, most) => Math.max(mm, Math.min(most, LEGIBLE_PX / scale)),
    small: mm => Math.max(mm, LEAST_PX / scale),
  };
}
