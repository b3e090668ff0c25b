import { useState } from "react";

/** Something typed, kept in this window alone, so that a reload or a step back loses nothing; null forgets it. */
export function useKeptHere<T extends object>(key: string, initial: T): [T, (next: T | null) => void] {
  const [value, setValue] = useState<T>(() => {
    try {
      return { ...initial, ...(JSON.parse(sessionStorage.getItem(key) ?? "{}") as Partial<T>) };
    } catch {
      return initial;
    }
  });
  const set = (next: T | null) => {
    try {
      if (next) sessionStorage.setItem(key, JSON.stringify(next));
      else sessionStorage.removeItem(key);
    } catch {
      // A browser that keeps nothing for this page still has it until it is left.
    }
    setValue(next ?? initial);
  };
  return [value, set];
}
