import { useCallback, useState } from "react";

/**
 * The visit that is chosen, from the press on: the address follows a moment later, with the sheet. Whatever the address says next
 * holds.
 */
export function usePressed(chosen: string | null, onVisit: (id: string) => void) {
  const [pressed, setPressed] = useState<string | null>(null);
  const [said, setSaid] = useState(chosen);
  if (said !== chosen) {
    setSaid(chosen);
    setPressed(null);
  }
  const press = useCallback(
    (id: string) => {
      setPressed(id);
      onVisit(id);
    },
    [onVisit],
  );
  return [pressed ?? chosen, press] as const;
}
