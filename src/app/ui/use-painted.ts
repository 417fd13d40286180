import { startTransition, useEffect, useState } from 'react';

/** Whether this was painted once: what a view is about shows before what takes most of the work. */
export function usePainted(): boolean {
  const [painted, setPainted] = useState(false);
  useEffect(() => {
    const frame = requestAnimationFrame(() => startTransition(() => setPainted(true)));
    return () => cancelAnimationFrame(frame);
  }, []);
  return painted;
}
