import { useEffect, useMemo, useRef } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { underneath } from "./Sheet";
import type { VisitMode } from "./VisitSheet";

// A sheet opens and closes in the very moment: the next key that is pressed already means the book.
const atOnce = { flushSync: true };

/** Opens the sheets of the book, by their addresses. */
export function useOpening(locationId: string) {
  const [, setSearch] = useSearchParams();
  const navigate = useNavigate();
  // A sheet that was just closed is gone for the next key, even where the address still follows.
  const hasLeft = useRef(false);
  // What the router gives changes with every address; the lanes are not drawn anew for that.
  const router = useRef({ setSearch, navigate });
  useEffect(() => {
    router.current = { setSearch, navigate };
  });
  return useMemo(() => {
    const show = (next: Record<string, string>) => {
      hasLeft.current = false;
      router.current.setSearch(next, atOnce);
    };
    return {
      show,
      visit: (id: string, mode: VisitMode = "look", more: Record<string, string> = {}) =>
        show({ visit: id, ...(mode !== "look" && { do: mode }), ...more }),
      draft: (id: string) => show({ new: id }),
      client: (id: string) => show({ client: id }),
      lane: (id: string) => show({ lane: id }),
      drawn: (id: string, from: string, until: string) => show({ lane: id, from, until }),
      edge: (id: string, edge: "from" | "until", was: string, to: string) => show({ lane: id, edge, was, to }),
      cover: () => show({ cover: "1" }),
      none: () => {
        hasLeft.current = true;
        document.getElementById(underneath)?.focus();
        router.current.setSearch({}, atOnce);
      },
      day: (next: string, where = locationId) =>
        router.current.navigate(`/day/${where}/${next}${hasLeft.current ? "" : window.location.search}`, atOnce),
    };
  }, [locationId]);
}

export type Opening = ReturnType<typeof useOpening>;
