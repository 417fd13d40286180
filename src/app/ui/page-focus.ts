import { type RefObject, useEffect, useRef } from 'react';

/** Gives a page the title `words`, for as long as it is shown; nothing leaves it as it is. */
export function useTitle(words: string | undefined): void {
  useEffect(() => {
    if (words) document.title = words;
  }, [words]);
}

/**
 * For what takes the place of the control that was just pressed: it takes the focus that went with it, so that keys go
 * on from there and it is read out. What did not take it from anybody leaves it alone.
 */
export function useLostFocus<E extends HTMLElement>(): RefObject<E | null> {
  const place = useRef<E>(null);
  useEffect(() => {
    if (document.activeElement === document.body || !document.activeElement)
      place.current?.focus({ preventScroll: true });
  }, []);
  return place;
}

/** A title of its own for a page. */
export const titled = (name: string): string => `${name} · Wet Test`;
