import type { QueryClient, QueryFilters } from "@tanstack/react-query";

/**
 * Asks again for all that is known under a key, since it has changed. An answer that was under way may have been read before the
 * change, so it is not waited for: `invalidateQueries` alone would take a first answer, or one that nobody shows yet, for the news.
 */
export function askAnew(queries: QueryClient, what: QueryFilters = {}) {
  const underWay = queries.getQueryCache().findAll({ ...what, fetchStatus: "fetching" });
  for (const query of underWay)
    if (query.state.data === undefined || !query.isActive()) {
      // Whoever waits for the answer that is given up is handed the new one.
      query.cancel({ silent: true }).catch(() => undefined);
      query.fetch().catch(() => undefined);
    }
  return queries.invalidateQueries(what);
}
