import { useEffect, useState } from "react";
import type { Day } from "../../api/staff";

/** The present by the server's clock, to the half minute; null while it is not on the picture of the day. */
export function useNow({ now: server, from, until }: Day): string | null {
  const [now, setNow] = useState(() => Date.parse(server));
  useEffect(() => {
    const seen = { server: Date.parse(server), here: performance.now() };
    const tick = () => setNow(seen.server + performance.now() - seen.here);
    const timer = setInterval(tick, 20_000);
    const first = setTimeout(tick, 0);
    return () => {
      clearInterval(timer);
      clearTimeout(first);
    };
  }, [server]);
  return now >= Date.parse(from) && now <= Date.parse(until) ? new Date(now).toISOString() : null;
}
