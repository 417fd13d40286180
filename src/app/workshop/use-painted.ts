import { useEffect, useState } from 'react';

/**
 * Whether this was painted once: what a view is about shows before what takes most of the work. No transition: the
 * router's own would have to wait for it.
 */
export function usePainted(): boolean {
  const [painted, setPainted] = useState(false);
  useEffect(() => {
    const frame = requestAnimationFrame(() => setPainted(true));
    return () => cancelAnimationFrame(frame);
  }, []);
  return painted;
}
