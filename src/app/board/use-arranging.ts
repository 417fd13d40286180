import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import type { Patch } from '../../core/trial/index.ts';
import type { BoardLayout } from './geometry.ts';

export interface Place {
  readonly board: number;
  readonly x: number;
  readonly y: number;
}

interface Arranging {
  readonly onMove?: (code: string, to: Place) => void;
  readonly onSwap?: (code: string, other: string) => void;
}

interface Drag {
  readonly code: string;
  /** Pointer minus patch corner, mm. */
  readonly grip: { readonly x: number; readonly y: number };
  readonly start: { readonly x: number; readonly y: number };
  readonly now: { readonly x: number; readonly y: number };
  readonly moved: boolean;
}

const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/**
 * Moving patches about a board: by dragging (onto another patch swaps the two), and by keyboard: `M` picks a patch
 * up, arrows choose another, Enter swaps, Escape lets go; Alt with an arrow moves it 1 mm, with Shift 10 mm.
 */
export function useArranging(
  layout: BoardLayout,
  patches: readonly Patch[],
  size: { w: number; h: number },
  on: Arranging,
) {
  const [drag, showDrag] = useState<Drag>();
  /** The drag itself: pointer events can come faster than the drawing is made. */
  const live = useRef<Drag>(undefined);
  const setDrag = (next: Drag | undefined) => {
    live.current = next;
    showDrag(next);
  };
  const [held, setHeld] = useState<string>();
  const skipClick = useRef(false);
  const active = Boolean(on.onMove && on.onSwap);
  const inMm = (event: PointerEvent<SVGGElement>) => {
    const svg = event.currentTarget.ownerSVGElement!;
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
    return { x: point.x, y: point.y };
  };
  const pointer = (patch: Patch) =>
    active
      ? {
          onPointerDown: (event: PointerEvent<SVGGElement>) => {
            if (event.button !== 0) return;
            const at = inMm(event);
            const corner = layout.of(patch);
            event.currentTarget.setPointerCapture(event.pointerId);
            setDrag({
              code: patch.code,
              grip: { x: at.x - corner.x, y: at.y - corner.y },
              start: at,
              now: at,
              moved: false,
            });
          },
          onPointerMove: (event: PointerEvent<SVGGElement>) => {
            const held = live.current;
            if (!held || held.code !== patch.code) return;
            const now = inMm(event);
            const moved = held.moved || Math.hypot(now.x - held.start.x, now.y - held.start.y) > 2;
            setDrag({ ...held, now, moved });
          },
          onPointerUp: () => {
            const held = live.current;
            if (held?.moved) {
              skipClick.current = true;
              drop(held);
            }
            setDrag(undefined);
          },
          onPointerCancel: () => setDrag(undefined),
        }
      : {};
  const drop = ({ code, grip, now }: Drag) => {
    const corner = { x: now.x - grip.x, y: now.y - grip.y };
    const middle = { x: corner.x + size.w / 2, y: corner.y + size.h / 2 };
    const under = patches.find(p => {
      const o = layout.of(p);
      return (
        p.code !== code &&
        Math.abs(o.x + size.w / 2 - middle.x) < size.w / 2 &&
        Math.abs(o.y + size.h / 2 - middle.y) < size.h / 2
      );
    });
    if (under) return on.onSwap?.(code, under.code);
    // Dropped beside every board: asked of its own, so that the reason why not is said.
    const own = patches.find(p => p.code === code)!.board;
    const board = layout.boardAt(middle.x, middle.y) ?? own;
    const origin = layout.at(board);
    on.onMove?.(code, { board, x: corner.x - origin.x, y: corner.y - origin.y });
  };
  /** Handles a key on a patch; true when it was about arranging. */
  const key = (event: KeyboardEvent, patch: Patch): boolean => {
    if (!active) return false;
    const way = ARROWS[event.key];
    if (way && event.altKey) {
      const by = event.shiftKey ? 10 : 1;
      on.onMove?.(patch.code, { board: patch.board, x: patch.x + way[0] * by, y: patch.y + way[1] * by });
    } else if (event.key === 'm' || event.key === 'M') setHeld(held === patch.code ? undefined : patch.code);
    else if (event.key === 'Escape' && held) setHeld(undefined);
    else if ((event.key === 'Enter' || event.key === ' ') && held) {
      if (held !== patch.code) on.onSwap?.(held, patch.code);
      setHeld(undefined);
    } else return false;
    event.preventDefault();
    return true;
  };
  const ghost = drag?.moved
    ? { code: drag.code, x: drag.now.x - drag.grip.x, y: drag.now.y - drag.grip.y }
    : undefined;
  /** Whether the click that follows a drag is to be passed over. */
  const wasDrag = () => {
    const was = skipClick.current;
    skipClick.current = false;
    return was;
  };
  return { active, held, ghost, pointer, key, wasDrag };
}
