import { useCallback, useEffect, useState } from "react";
import { visitors } from "../../../api/public";
import { answerOf } from "../../../shared/problem";

const key = "kingcup-paying";

/** What names a payment that was begun: what the card page has led back with, or what this window has kept. */
function begun(): string | null {
  const led = /^#paid=([0-9a-f]{96})$/.exec(window.location.hash)?.[1] ?? null;
  try {
    if (led) sessionStorage.setItem(key, led);
    return led ?? sessionStorage.getItem(key);
  } catch {
    return led;
  }
}

/** The payment a visit waits for, from the first press until what became of it was read. */
export function usePaying() {
  const [token, setToken] = useState(begun);
  const keep = useCallback((next: string | null) => {
    try {
      if (next) sessionStorage.setItem(key, next);
      else sessionStorage.removeItem(key);
    } catch {
      // The card page leads back with it all the same.
    }
    setToken(next);
  }, []);
  useEffect(() => {
    // It names the payment to whoever has it, so it does not stay in the address.
    if (window.location.hash.startsWith("#paid="))
      window.history.replaceState(window.history.state, "", window.location.pathname + window.location.search);
    // Whoever comes back from the card page by Back finds the page as it was left.
    const comeBack = (event: PageTransitionEvent) => {
      if (event.persisted) setToken(begun());
    };
    window.addEventListener("pageshow", comeBack);
    return () => window.removeEventListener("pageshow", comeBack);
  }, []);
  return { token, keep };
}

/** Leads to the card page of a payment. */
export async function goToCard(token: string) {
  const page = await answerOf(
    visitors.POST("/api/public/v1/payments/page", { body: { token, back: window.location.search } }),
  );
  window.location.assign(page.address);
}
