import { useEffect, useRef, useState } from 'react';
import * as v from 'valibot';
import { missingItem, PlanRequest } from '../../core/design/index.ts';
import { findMethod, type Method } from '../../core/methods/index.ts';
import type { Shelf } from '../../core/shelf/index.ts';

/** A plan may be without its name, or have too much in it, for as long as it is worked on. */
const Draft = v.looseObject({
  factors: v.pipe(PlanRequest.entries.factors),
  usual: PlanRequest.entries.usual,
  board: v.looseObject({}),
  method: v.string(),
});

/**
 * A draft as it was left, if the shelf and the methods still hold all it names.
 *
 * @param text what was kept, or nothing.
 */
export function draftFrom(
  text: string | null,
  start: PlanRequest,
  shelf: Shelf,
  own: readonly Method[],
): PlanRequest | undefined {
  try {
    const parsed = v.safeParse(Draft, JSON.parse(text ?? 'null'));
    if (!parsed.success) return undefined;
    const draft = { ...start, ...parsed.output } as PlanRequest;
    const method = findMethod(draft.method, own);
    const others = (draft.compared ?? []).map(c => findMethod(c.method, own));
    if (!method || others.includes(undefined)) return undefined;
    const used = { ...shelf, method, otherMethods: others as Method[] };
    return missingItem({ ...draft, used }) === undefined ? draft : undefined;
  } catch {
    // What is no JSON is no draft.
    return undefined;
  }
}

/**
 * The request that is being planned, kept in this tab until it is saved, so that a look at the shelf costs nothing.
 * `taken` while it is one that was left before; `forget` when it was saved; `restart` begins from the question again.
 */
export function useDraft(
  key: string,
  start: PlanRequest,
  fresh: () => PlanRequest,
  shelf: Shelf,
  own: readonly Method[],
) {
  const name = `wet-test-draft-${key}`;
  const [kept] = useState(() => draftFrom(read(name), start, shelf, own));
  const [request, setRequest] = useState<PlanRequest>(() => kept ?? fresh());
  const [taken, setTaken] = useState(kept !== undefined);
  const first = useRef(request);
  useEffect(() => {
    if (request !== first.current) write(name, JSON.stringify(request));
  }, [name, request]);
  return {
    request,
    setRequest,
    taken,
    forget: () => write(name, undefined),
    restart: () => {
      const again = fresh();
      first.current = again;
      write(name, undefined);
      setRequest(again);
      setTaken(false);
    },
  };
}

function read(name: string): string | null {
  try {
    return sessionStorage.getItem(name);
  } catch {
    return null;
  }
}

function write(name: string, text: string | undefined) {
  try {
    if (text === undefined) sessionStorage.removeItem(name);
    else sessionStorage.setItem(name, text);
  } catch {
    // Storage is blocked or full: the draft lives as long as its page.
  }
}
