import { useEffect } from "react";

/** Takes the focus to the first field that is marked, each time something was refused. */
export function useFirstFault(refused: unknown) {
  useEffect(() => {
    if (refused) document.querySelector<HTMLElement>("[aria-invalid=true]")?.focus();
  }, [refused]);
}
