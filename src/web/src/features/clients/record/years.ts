/** The first days of the months between two dates. */
export function monthsBetween(from: string, until: string): string[] {
  const months: string[] = [];
  let [year, month] = [Number(from.slice(0, 4)), Number(from.slice(5, 7)) + 1];
  for (;;) {
    if (month > 12) [year, month] = [year + 1, 1];
    const first = `${year}-${String(month).padStart(2, "0")}-01`;
    if (first > until) return months;
    months.push(first);
    month++;
  }
}

/** Where a visit stands in the book. */
export const visitAddress = (locationId: string, date: string, id: string) => `/day/${locationId}/${date}?visit=${id}`;
