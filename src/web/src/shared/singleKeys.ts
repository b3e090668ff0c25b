import { useSyncExternalStore } from "react";

const key = "kingcup-single-keys";
const listeners = new Set<() => void>();
let areOn = read();

function read() {
  try {
    return localStorage.getItem(key) !== "off";
  } catch {
    return true;
  }
}

/** Whether single letters do something, kept in this browser: whoever dictates or presses keys unawares turns them off. */
export const singleKeys = {
  areOn: () => areOn,
  set: (on: boolean) => {
    areOn = on;
    try {
      if (on) localStorage.removeItem(key);
      else localStorage.setItem(key, "off");
    } catch {
      // It lasts as long as the page.
    }
    for (const listener of listeners) listener();
  },
};

/** Whether a key on its own is meant as such: without Ctrl and its like, not typed into a field, and not turned off. */
export const isSingleKey = (event: KeyboardEvent) =>
  areOn &&
  !event.defaultPrevented &&
  !event.ctrlKey &&
  !event.metaKey &&
  !event.altKey &&
  !/^(INPUT|SELECT|TEXTAREA)$/.test((event.target as HTMLElement).tagName);

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export const useSingleKeys = () => useSyncExternalStore(subscribe, singleKeys.areOn);
