import { useSyncExternalStore } from "react";

/** A choice that a person makes for this browser. Where a browser keeps nothing, it lasts as long as the page. */
export const chosenHere = <T extends string>(key: string, usual: T, all: readonly T[]) =>
  keptHere(key, usual, (kept): kept is T => (all as readonly string[]).includes(kept));

/** The same of what has too many values to be listed. */
export function keptHere<T extends string>(key: string, usual: T, isOne: (kept: string) => kept is T) {
  const listeners = new Set<() => void>();
  let value = usual;
  try {
    const kept = localStorage.getItem(key);
    if (kept !== null && isOne(kept)) value = kept;
  } catch {
    // The usual stays.
  }
  const subscribe = (listener: () => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  };
  const get = () => value;
  return {
    get,
    set: (next: T) => {
      value = next;
      try {
        if (next === usual) localStorage.removeItem(key);
        else localStorage.setItem(key, next);
      } catch {
        // It lasts as long as the page.
      }
      for (const listener of listeners) listener();
    },
    useValue: () => useSyncExternalStore(subscribe, get),
  };
}
