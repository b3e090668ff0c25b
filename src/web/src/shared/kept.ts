import type { FormEvent } from "react";
import { ifMatch, send } from "../api/setup";
import { useChange } from "./change";
import { useDraft } from "./draft";
import { useUnsaved } from "./unsaved";

type Kept = { id?: string | null; version?: number | string | undefined };

/**
 * A form over something the setup keeps: what is written over what is stored, and how it is saved. Without an identity it is
 * added at the path; with one it is changed at the path and its identity; where there is only one of it, at the path itself.
 */
export function useKept<T extends Kept>(stored: T, path: string, onMade?: (id: string) => void) {
  const { draft, base, dirty, set, undo, keep } = useDraft(stored);
  const isNew = stored.id === null;
  const settled = useUnsaved(dirty);
  const save = useChange(
    (wanted: T, headers) =>
      isNew
        ? send<T>("POST", path, wanted, headers)
        : send<T>("PUT", stored.id ? `${path}/${stored.id}` : path, wanted, { ...headers, ...ifMatch(base.version) }),
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
