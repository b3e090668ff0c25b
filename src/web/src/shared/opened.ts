import { useCallback } from "react";
import { useSearchParams } from "react-router";

/** What is being added has no identity yet. */
export const adding = "new";

/** The same list kept twice on one page says which of them an entry belongs to. */
export type Opened = { id: string | null; open: (id: string | null) => void; replace: (id: string) => void };

/**
 * Which entry of a list is open. It stands in the address, so that Back leads to the one before, a reload keeps it and a link
 * leads to it; until one was chosen it is none, and the list opens its first.
 */
export function useOpened(name = "open"): Opened {
  const [search, setSearch] = useSearchParams();
  const set = useCallback(
    (id: string | null, replace: boolean) =>
      setSearch(
        (before) => {
          const next = new URLSearchParams(before);
          if (id === null) next.delete(name);
          else next.set(name, id);
          return next;
        },
        { replace },
      ),
    [name, setSearch],
  );
  return {
    id: search.get(name),
    open: useCallback((id: string | null) => set(id, false), [set]),
    replace: useCallback((id: string) => set(id, true), [set]),
  };
}

/** The entry that is open: the one named, none while something is added, else the first. */
export const openedOf = <T extends { id?: string | null }>(all: readonly T[], id: string | null): T | undefined =>
  id === adding ? undefined : (all.find((item) => item.id === id) ?? all[0]);
