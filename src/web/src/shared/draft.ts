import { useState } from "react";

type Versioned = { version?: number | string | undefined };

/**
 * What somebody is writing over what is stored. A newer state of the server replaces a draft nobody has touched; one that
 * was touched stays, and saving it then says that somebody else was quicker.
 */
export function useDraft<T extends Versioned>(stored: T) {
  const [base, setBase] = useState(stored);
  const [draft, setDraft] = useState(stored);
  const dirty = JSON.stringify(draft) !== JSON.stringify(base);
  const keep = (next: T) => {
    setBase(next);
    setDraft(next);
  };
  if (Number(stored.version ?? 0) > Number(base.version ?? 0) && !dirty) keep(stored);
  return {
    draft,
    base,
    dirty,
    set: (change: Partial<T>) => setDraft({ ...draft, ...change }),
    undo: () => setDraft(base),
    /** What the server has kept is what is stored now. */
    keep,
  };
}
