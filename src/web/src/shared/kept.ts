import type { FormEvent } from "react";
import type { Keeper } from "../api/keepers";
import { useChange } from "./change";
import { useDraft } from "./draft";
import { Problem } from "./problem";
import { useUnsaved } from "./unsaved";

type Kept = { id?: string | null; version?: number | string | undefined };

/**
 * A form over something the setup keeps: what is written over what is stored, and how it is saved. Without an identity it is
 * added; with one, or where there is only one of it, it is changed. What is written and not saved is asked about.
 */
export function useKept<T extends Kept>(stored: T, keeper: Keeper<T>, onMade?: (id: string) => void) {
  const form = useDraft(stored, keeper.shape);
  const { draft, base, dirty, errors, set, undo, keep, whenWithin, refuse } = form;
  const isNew = stored.id === null;
  const settled = useUnsaved(dirty);
  const change = useChange(
    (wanted: T, headers) =>
      isNew ? keeper.add(wanted, headers) : keeper.put(wanted, Number(base.version ?? 0), headers),
    (made) => {
      keep(made);
      settled();
      if (made.id) onMade?.(made.id);
    },
    (problem) => problem instanceof Problem && refuse(problem),
  );
  const faults = Object.keys(errors).length;
  const isMended = faults === 0 && Object.keys(change.problem?.errors ?? {}).length > 0;
  const save = {
    ...change,
    errors,
    problem: isMended ? null : change.problem,
    saved: change.saved && faults === 0,
    run: (wanted: T) => whenWithin(() => change.run(wanted)),
    meanwhile: form.isNewer
      ? {
          theirs: form.theirs,
          goOn: (withMine: boolean) => {
            form.goOn(withMine);
            change.forget();
          },
        }
      : undefined,
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.run(draft);
  };
  return { draft, base, dirty, set, undo, keep, save, errors, submit };
}
