import type { QueryClient } from "@tanstack/react-query";
import { asks } from "./queries";
import { askAnew } from "../shared/askAnew";

const again = (queries: QueryClient, ...keys: (readonly unknown[])[]) => {
  for (const queryKey of keys) void askAnew(queries, { queryKey });
};

/** What can be booked depends on these. */
const fits = [["starts"], ["lights"], ["why-not"], ["reasons"], ["fullness"]];

/** After what stands in the book has changed, here or elsewhere: one day of one location, or all where it is not said. */
export const refreshBook = (queries: QueryClient, locationId?: string | null, date?: string | null) =>
  again(
    queries,
    ...(locationId && date
      ? [asks.day(locationId, date).queryKey, ["day", locationId, "week"], ["day", "agenda"]]
      : [["day"]]),
    ["visit"],
    ["client"],
    ["history"],
    ["needs-place"],
    ["steps"],
    ...fits,
  );

/** After a start was found taken: what fits is asked again, and nothing else. */
export const refreshFits = (queries: QueryClient) => again(queries, ...fits);

/** After the setup has changed: everything that follows from it. The session does not. */
export const refreshSetup = (queries: QueryClient) => {
  again(queries, ["desk"], ["setup"]);
  refreshBook(queries);
};

/** After a client was changed: where they are named. */
export const refreshClient = (queries: QueryClient) => again(queries, ["clients"], ["client"], ["day"], ["visit"]);
