import { usualHours } from "./measure";

const key = "kingcup-hours";

/** How many hours of the book somebody wants in view, kept in this browser; a browser that keeps nothing has the usual. */
export const hoursKept = {
  read: (): number => {
    try {
      const kept = Number(localStorage.getItem(key));
      return kept > 0 ? kept : usualHours;
    } catch {
      return usualHours;
    }
  },
  write: (hours: number) => {
    try {
      localStorage.setItem(key, String(hours));
    } catch {
      // It lasts as long as the page.
    }
  },
};
