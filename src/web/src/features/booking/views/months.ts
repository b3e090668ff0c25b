/** The first of a month so many months later. */
export function monthAfter(date: string, months: number): string {
  const count = Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) - 1 + months;
  return `${Math.floor(count / 12)}-${String((count % 12) + 1).padStart(2, "0")}-01`;
}
