import { useEffect, useSyncExternalStore } from "react";

/** Somebody else's screen, and the visit that is open there. */
export type Present = { key: string; staffId: string; name: string; visitId: string | null };

/** A screen says again what is open on it this often; one that was not heard of for so long has left. In milliseconds. */
const again = 15_000;
const forgotten = 40_000;

type Heard = Present & { at: number };

let screens: readonly Heard[] = [];
let own: string | null = null;
let tell: ((visitId: string | null) => void) | null = null;
const listeners = new Set<() => void>();

const set = (next: readonly Heard[]) => {
  screens = next;
  for (const listener of listeners) listener();
};

/** Which visits others have open. Nothing is kept anywhere: what is not said again is forgotten. */
export const presence = {
  /** The line over which it is told, as soon as there is one. */
  connect: (send: ((visitId: string | null) => void) | null) => {
    tell = send;
    if (own) tell?.(own);
  },
  hear: (one: Present, now = Date.now()) => {
    const isNew = !screens.some((other) => other.key === one.key && other.visitId === one.visitId);
    set([...screens.filter((other) => other.key !== one.key && now - other.at < forgotten), { ...one, at: now }]);
    // Whoever comes into a visit hears at once who is there.
    if (isNew && own && one.visitId === own) tell?.(own);
  },
  open: (visitId: string | null) => {
    own = visitId;
    tell?.(visitId);
  },
  /** What is known of other screens. */
  heard: () => screens,
  forget: (now = Date.now()) => {
    if (screens.some((one) => now - one.at >= forgotten)) set(screens.filter((one) => now - one.at < forgotten));
  },
};

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** Who has a visit open besides the account `self`, by name; two people may share one. */
export const othersIn = (all: readonly Present[], visitId: string, self: string): string[] => {
  const others = new Map(
    all.filter((one) => one.visitId === visitId && one.staffId !== self).map((one) => [one.staffId, one.name]),
  );
  return [...others.values()];
};

/** Says that a visit is open here, and gives the names of the others who have it open. */
export function useOthersIn(visitId: string, self: string): string[] {
  const heard = useSyncExternalStore(subscribe, presence.heard);
  useEffect(() => {
    presence.open(visitId);
    const timer = setInterval(() => {
      presence.open(visitId);
      presence.forget();
    }, again);
    return () => {
      clearInterval(timer);
      presence.open(null);
    };
  }, [visitId]);
  return othersIn(heard, visitId, self);
}
