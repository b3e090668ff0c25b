import { chosenHere } from "./chosenHere";

/** Whether single letters do something: whoever dictates or presses keys unawares turns them off. */
export const singleKeys = chosenHere<"on" | "off">("kingcup-single-keys", "on", ["on", "off"]);

/** Whether a key on its own is meant as such: without Ctrl and its like, not typed into a field, and not turned off. */
export const isSingleKey = (event: KeyboardEvent) =>
  singleKeys.get() === "on" &&
  !event.defaultPrevented &&
  !event.ctrlKey &&
  !event.metaKey &&
  !event.altKey &&
  !/^(INPUT|SELECT|TEXTAREA)$/.test((event.target as HTMLElement).tagName);
