import type { FormEvent } from "react";
import type { Keeper } from "../api/keepers";
import { useChange } from "./change";
import { useDraft } from "./draft";
import { useUnsaved } from "./unsaved";

type Kept = { id?: string | null; version?: number | string | undefined };

/**
 * A form over something the setup keeps: what is written over what is stored, and how it is saved. Without an identity it is
 * added; with one, or where there is only one of it, it is changed. What is written and not saved is asked about.
 */
export function useKept<T extends Kept>(stored: T, keeper: Keeper<T>, onMade?: (id: string) => void) {
  const { draft, base, dirty, set, undo, keep } = useDraft(stored);
  const isNew = stored.id === null;
  const settled = useUnsaved(dirty);
  const save = useChange(
    (wanted: T, headers) =>
      isNew ? keeper.add(wanted, headers) : keeper.put(wanted, Number(base.version ?? 0), headers),
    (made) => {
      keep(made);
      settled();
      if (made.id) onMade?.(made.id);
    },
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.run(draft);
  };
  return { draft, base, dirty, set, undo, keep, save, errors: save.errors, submit };
}
