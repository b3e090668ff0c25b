import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { visitors, type Hold } from "../../../api/public";
import { askAnew } from "../../../shared/askAnew";
import { answerOf, Problem } from "../../../shared/problem";
import { linesOf, type Wish } from "./lines";

const backAddress = "/api/public/v1/holds/back";
const minute = 60_000;

/** Gives a time back, also from a page that is being left. */
function giveBack(token: string) {
  const body = JSON.stringify({ token });
  return fetch(backAddress, { method: "POST", headers: { "content-type": "application/json" }, body, keepalive: true });
}

type Now = {
  /** For which question this holds. */
  asked: string;
  /** The same but for the promo code: while another is tried, what is kept stays shown. */
  about: string;
  hold: Hold | null;
  /** How many minutes more it is kept, the one that has begun counted. */
  minutes: number;
  /** Why it could not be kept, where it is not free or not offered any more. */
  problem: Problem | null;
};

/**
 * Keeps the time that is chosen for a few minutes. It is given back as soon as another is chosen or the page is left. Where it cannot
 * be kept, since so many choose at once or the line is cut, it is booked as any time is.
 */
export function useHold(wish: Wish | null, start: string | null) {
  const queries = useQueryClient();
  const [round, setRound] = useState(0);
  const asked = wish && start ? JSON.stringify({ body: bodyOf(wish, start), round }) : null;
  const about = wish && start ? JSON.stringify({ body: { ...bodyOf(wish, start), promo: null }, round }) : null;
  const [now, setNow] = useState<Now | null>(null);
  /** What was kept for the question before; the next answer takes its place at the server. */
  const before = useRef<string | null>(null);
  /** What is being kept at this moment; null once it is known that nothing is. */
  const underWay = useRef<Promise<string | null> | null>(null);
  useEffect(() => {
    if (!asked || !about) return;
    const replaced = before.current;
    before.current = null;
    let isOver = false;
    let token: string | null = null;
    let clock: ReturnType<typeof setTimeout> | undefined;
    const tell = (next: Omit<Now, "asked" | "about">) => setNow({ asked, about, ...next });
    const back = (one: string) =>
      // The times that are shown meanwhile have been asked for while it was still kept.
      void giveBack(one)
        .catch(() => undefined)
        .then(() => askAnew(queries, { queryKey: ["starts"] }));
    const leave = () => {
      if (token) back(token);
      token = null;
    };
    // Whoever comes back to a page that was set aside has the time kept once more.
    const comeBack = (event: PageTransitionEvent) => {
      if (event.persisted) setRound((before) => before + 1);
    };
    const keep = async () => {
      const { body } = JSON.parse(asked) as { body: ReturnType<typeof bodyOf> };
      const hold = await answerOf(visitors.POST("/api/public/v1/holds", { body }));
      token = hold.token;
      if (isOver) return leave();
      const until = Date.now() + hold.seconds * 1000;
      const tick = () => {
        const left = until - Date.now();
        tell({ hold: left > 0 ? hold : null, minutes: Math.max(0, Math.ceil(left / minute)), problem: null });
        if (left > 0) clock = setTimeout(tick, left % minute || minute);
      };
      tick();
    };
    const kept = keep();
    underWay.current = kept.then(
      () => token,
      () => null,
    );
    kept.catch((error: unknown) => {
      if (replaced) back(replaced);
      // What was never kept is not said to be kept no more: only that it is not to be had is news.
      if (isOver) return;
      if (error instanceof Problem && error.status === 409) tell({ hold: null, minutes: 0, problem: error });
      // What was kept until another promo code was tried is kept no more.
      else setNow((was) => (was?.about === about ? { asked, about, hold: null, minutes: 0, problem: null } : was));
    });
    window.addEventListener("pagehide", leave);
    window.addEventListener("pageshow", comeBack);
    return () => {
      isOver = true;
      clearTimeout(clock);
      window.removeEventListener("pagehide", leave);
      window.removeEventListener("pageshow", comeBack);
      const held = token;
      if (!held) return;
      token = null;
      // Where another question follows in this moment, its answer takes the place of what is kept; otherwise that is given back.
      before.current = held;
      queueMicrotask(() => {
        if (before.current !== held) return;
        before.current = null;
        back(held);
      });
    };
  }, [asked, about, queries]);
  const present = now?.about === about ? now : null;
  return {
    kept: present?.hold ?? null,
    /** Whether what is kept has still to be asked for anew, with another promo code. */
    isTrying: present !== null && present.asked !== asked,
    /** What names the time that is kept, also for whoever books before it is known to be: their own must not stand in their way. */
    token: () => underWay.current ?? Promise.resolve(null),
    minutes: present?.minutes ?? 0,
    problem: present?.problem ?? null,
    /** Whether it was kept, and is no more. */
    isOver: present !== null && present.hold === null && present.problem === null && present.minutes === 0,
    again: () => setRound((before) => before + 1),
  };
}

const bodyOf = (wish: Wish, start: string) => ({
  locationId: wish.locationId,
  start,
  lines: linesOf(wish),
  returning: wish.returning,
  link: wish.link,
  promo: wish.promo,
  after: wish.after,
  as: wish.as,
});

export type Holding = ReturnType<typeof useHold>;
