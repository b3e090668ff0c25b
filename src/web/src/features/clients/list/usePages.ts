import { useQueries, useQuery, keepPreviousData } from "@tanstack/react-query";
import { asks, type ClientFilter } from "../../../api/queries";
import type { components } from "../../../api/generated/schema";

export type Row = components["schemas"]["ListedClientAnswer"];

/** How many the server gives at a time. */
const size = 200;

/** The rows of a list that are in sight; of the others only how many there are. */
export function usePages(filter: ClientFilter, first: number, last: number) {
  const start = useQuery({ ...asks.clientList(filter, 0), placeholderData: keepPreviousData });
  const pages = Array.from(
    { length: Math.floor(last / size) - Math.floor(first / size) + 1 },
    (_, i) => Math.floor(first / size) + i,
  );
  const asked = useQueries({ queries: pages.map((page) => asks.clientList(filter, page * size)) });
  const rowAt = (index: number): Row | undefined => {
    const page = Math.floor(index / size);
    const data = page === 0 ? start.data : asked[pages.indexOf(page)]?.data;
    return data?.clients[index - page * size];
  };
  return { total: start.data?.total ?? 0, rowAt };
}
