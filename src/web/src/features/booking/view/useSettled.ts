import { startTransition, useEffect, useState } from "react";

/** Whether what is looked at has been on the screen once: what is out of sight of it is drawn only then, when there is time. */
export function useSettled(what: string): boolean {
  const [settled, settle] = useState<string | null>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const frame = requestAnimationFrame(() => {
      timer = setTimeout(() => startTransition(() => settle(what)));
    });
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  }, [what]);
  return settled === what;
}
