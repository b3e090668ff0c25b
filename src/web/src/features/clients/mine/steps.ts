import { useSyncExternalStore } from "react";

/** What somebody does with one of their bookings. It stands in the address, so that Back leads out of it and a reload keeps it. */
export type Step = { does: "looks" | "moves" | "cancels" | "paid"; id: string };

const listeners = new Set<() => void>();
const tell = () => listeners.forEach((listener) => listener());

export function stepIn(search: string): Step {
  const found = new URLSearchParams(search);
  const moving = found.get("move");
  const cancelling = found.get("cancel");
  const paid = found.get("paid");
  if (moving) return { does: "moves", id: moving };
  if (paid) return { does: "paid", id: paid };
  return cancelling ? { does: "cancels", id: cancelling } : { does: "looks", id: "" };
}

/** Goes to a step, or with none back to the list. */
export function goTo(step: Step | null) {
  const name = step?.does === "moves" ? "move" : "cancel";
  window.history.pushState(null, "", step ? `?${name}=${encodeURIComponent(step.id)}` : window.location.pathname);
  tell();
}

/** Is done with what the address says, which is nothing one comes back to. */
export function leave() {
  window.history.replaceState(null, "", window.location.pathname);
  tell();
}

function listen(listener: () => void) {
  listeners.add(listener);
  window.addEventListener("popstate", listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener("popstate", listener);
  };
}

export const useStep = () => stepIn(useSyncExternalStore(listen, () => window.location.search));
