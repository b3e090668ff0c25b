import { useEffect, useRef } from "react";

let last: Element | null = null;
globalThis.document?.addEventListener("focusin", (event) => (last = event.target as Element));

/** For the heading of what has just come: it takes the focus when what had it before is gone, so that nobody begins at the top again. */
export function useArrived<T extends HTMLElement>() {
  const heading = useRef<T>(null);
  useEffect(() => {
    if (document.activeElement === document.body && last?.isConnected === false) {
      heading.current?.focus({ preventScroll: true });
    }
  }, []);
  return heading;
}
