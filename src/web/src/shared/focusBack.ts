import { useEffect, useRef, type RefObject } from "react";

/**
 * What opens something may be gone while that is open. Once it is closed, and the focus is nowhere, whoever works from the keyboard goes
 * on from what opened it.
 */
export function useFocusBack(isOpen: boolean): RefObject<HTMLButtonElement | null> {
  const opener = useRef<HTMLButtonElement>(null);
  const wasOpen = useRef(isOpen);
  useEffect(() => {
    if (wasOpen.current && !isOpen && document.activeElement === document.body) opener.current?.focus();
    wasOpen.current = isOpen;
  }, [isOpen]);
  return opener;
}
