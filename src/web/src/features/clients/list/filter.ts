import type { ClientFilter } from "../../../api/queries";

const texts = ["search", "tag", "source", "notSince"] as const;
const yesNo = ["mayBookOnline", "hasAlert", "hasAhead"] as const;

/** Reads the filter of a list from the address, where it stands so that Back, reload and a link keep it. */
export function filterOf(search: URLSearchParams): ClientFilter {
  const filter: ClientFilter = {};
  for (const name of texts) {
    const text = search.get(name);
    if (text) filter[name] = text;
  }
  for (const name of yesNo) {
    const said = search.get(name);
    if (said === "true" || said === "false") filter[name] = said === "true";
  }
  const month = Number(search.get("bornIn"));
  if (month >= 1 && month <= 12) filter.bornIn = month;
  return filter;
}

/** The address of a filter, with nothing in it that does not matter. */
export const addressOf = (filter: ClientFilter): URLSearchParams =>
  new URLSearchParams(
    Object.entries(filter)
      .filter(([, value]) => value !== undefined && value !== "")
      .map(([name, value]) => [name, String(value)]),
  );
