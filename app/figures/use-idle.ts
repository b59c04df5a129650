import { useEffect, useState } from 'react';

const AT_MOST_MS = 600;
let been = false;

/** Runs once the page has drawn what it has to, or after a little more than half a second. */
export function whenIdle(work: () => void): void {
  if ('requestIdleCallback' in globalThis) requestIdleCallback(work, { timeout: AT_MOST_MS });
  else setTimeout(work, AT_MOST_MS / 2);
}

/** Whether the page has had a moment of rest since it was loaded: what may wait, waits for that. */
export function useIdle(): boolean {
  const [idle, setIdle] = useState(been);
  useEffect(() => {
    if (been) return;
    let current = true;
    whenIdle(() => {
      been = true;
      if (current) setIdle(true);
    });
    return () => {
      current = false;
    };
  }, []);
  return idle;
}
