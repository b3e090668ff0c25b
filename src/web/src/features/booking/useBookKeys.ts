import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import type { DeskSetup, Visit } from "../../api/staff";
import { addDays } from "../../shared/format";
import { isSingleKey } from "../../shared/singleKeys";
import { undoLast } from "./undo/undoing";

type Wanted = {
  date: string;
  location: DeskSetup["locations"][number] | undefined;
  mayKeep: boolean;
  /** The visit whose sheet is open. */
  visit: Visit | undefined;
  onDay: (date: string) => void;
  onNew: () => void;
  onMove: (visit: Visit) => void;
  /** Takes it up with the focus in the book, to be put down on another day. */
  onCut: (visit: Visit) => void;
  /** The same visit once more, for the same client. */
  onAgain: (visit: Visit) => void;
  onNone: () => void;
  onKeys: () => void;
};

/** The keys of the book: single letters while nothing is being typed. */
export function useBookKeys(wanted: Wanted) {
  const queries = useQueryClient();
  const present = useRef(wanted);
  useEffect(() => {
    present.current = wanted;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const { date, location, mayKeep, visit, ...does } = present.current;
      const target = event.target as HTMLElement;
      if (event.defaultPrevented) return;
      if (event.key === "Escape") return does.onNone();
      if (/^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName)) return;
      if (mayKeep && event.key === "z" && (event.ctrlKey || event.metaKey) && !event.shiftKey) {
        event.preventDefault();
        void undoLast(queries);
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || (event.key.length === 1 && !isSingleKey(event))) return;
      // What is done with the visit that is open goes from its sheet too.
      const ofVisit: Record<string, () => void> =
        mayKeep && visit
          ? {
              ...(visit.canMove && { m: () => does.onMove(visit), x: () => does.onCut(visit) }),
              c: () => does.onAgain(visit),
            }
          : {};
      const undo: Record<string, () => void> = mayKeep ? { u: () => void undoLast(queries) } : {};
      // Other keys pressed in a sheet or in something that floats belong there.
      const isInside = target.closest("aside, dialog, [role=dialog], [role=listbox], [role=menu]") !== null;
      const ofBook: Record<string, () => void> = isInside
        ? {}
        : {
            n: () => mayKeep && does.onNew(),
            t: () => location && does.onDay(location.today),
            ArrowLeft: () => does.onDay(addDays(date, -1)),
            ArrowRight: () => does.onDay(addDays(date, 1)),
            "/": () => document.getElementById("find")?.focus(),
            "?": does.onKeys,
          };
      const action = { ...ofBook, ...ofVisit, ...undo }[event.key];
      if (!action) return;
      event.preventDefault();
      action();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [queries]);
}
