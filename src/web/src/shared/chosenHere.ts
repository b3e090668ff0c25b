import { useSyncExternalStore } from "react";

/** A choice that a person makes for this browser. Where a browser keeps nothing, it lasts as long as the page. */
export function chosenHere<T extends string>(key: string, usual: T, all: readonly T[]) {
  const listeners = new Set<() => void>();
  let value = usual;
  try {
    const kept = localStorage.getItem(key) as T | null;
    if (kept !== null && all.includes(kept)) value = kept;
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
    use: () => useSyncExternalStore(subscribe, get),
  };
}
