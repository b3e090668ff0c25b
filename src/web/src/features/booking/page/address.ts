import { startTransition, useEffect, useState } from "react";
import { isFramed, opensIn } from "./framed";

export type Step = "where" | "what" | "extras" | "who" | "when" | "you";

/** A service that is wanted. */
export type ChosenLine = {
  what: string;
  extras: string[];
  who: string | null;
  /** Whom it is for: 0 for whoever books, 1 for the first who comes along. */
  person: number;
};

/** Everything a client has chosen so far. All of it stands in the address; who they are never does. */
export type Chosen = {
  where: string | null;
  /** The category whose services come first, by the link they came with. */
  of: string | null;
  /** What is wanted, in order. */
  lines: ChosenLine[];
  /** Which of it is being chosen; as many as there are for one more. */
  line: number;
  /** Whom one more service is for. */
  add: number;
  /** Whom they came for by a link, before a service was chosen. */
  who: string | null;
  /** The first day that is looked at; null from today on. */
  from: string | null;
  /** The day whose times are open; null for the first that has any, "" for none. */
  day: string | null;
  /** The start that was chosen, an instant. */
  at: string | null;
  step: Step;
  returning: boolean;
  /** The promo code they have named or came with. */
  promo: string | null;
  /** The direct link they came with, which opens services that are not shown to everyone. */
  link: string | null;
};

/** What a visit just booked lets be booked now, and what was wanted when it had to come first. Kept beside the address. */
export type Beside = { after: string | null; wanted: string | null };

const steps: readonly string[] = ["where", "what", "extras", "who", "when", "you"];
const longestCode = 60;
/** Whether a text is a date as the server writes them. */
export const isDate = (text: string | null) =>
  text !== null && /^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text));

/** What an address says; what makes no sense in it is left out. */
export function chosenIn(search: string): Chosen {
  const found = new URLSearchParams(search);
  const at = found.get("at");
  const asked = found.get("step");
  const { lines, who } = linesIn(found);
  const numberIn = (name: string) => Math.max(0, Math.trunc(Number(found.get(name))) || 0);
  const chosen: Chosen = {
    where: found.get("where"),
    of: found.get("of"),
    lines,
    line: Math.min(numberIn("line"), lines.length),
    add: Math.min(numberIn("add"), comingTo(lines)),
    who,
    from: isDate(found.get("from")) ? found.get("from") : null,
    day: isDate(found.get("day")) || found.get("day") === "" ? found.get("day") : null,
    at: at !== null && !Number.isNaN(Date.parse(at)) ? at : null,
    step: "what",
    returning: found.has("returning"),
    promo: found.get("promo")?.slice(0, longestCode) ?? null,
    link: found.get("with"),
  };
  const some = lines.length > 0;
  const step = steps.includes(asked ?? "") ? (asked as Step) : some ? (chosen.at ? "you" : "when") : "what";
  // A later step needs what the earlier ones choose.
  const stands = step === "where" || step === "what" || (some && (step !== "you" || chosen.at !== null));
  return { ...chosen, step: stands ? step : some ? "when" : "what" };
}

/** What is wanted: what follows a service in the address belongs to it. */
function linesIn(found: URLSearchParams): { lines: ChosenLine[]; who: string | null } {
  const lines: ChosenLine[] = [];
  let who: string | null = null;
  for (const [name, value] of found) {
    const last = lines.at(-1);
    if (name === "what" && value) lines.push({ what: value, extras: [], who: null, person: 0 });
    else if (name === "for" && last) last.person = Math.trunc(Number(value)) || 0;
    else if (name === "extra") last?.extras.push(value);
    else if (name === "who" && last) last.who = value;
    else if (name === "who") who = value;
  }
  // A link may name whom they come for before what they come for.
  const [first] = lines;
  if (first && lines.length === 1) first.who ??= who;
  return { lines: byPerson(lines), who: first ? null : who };
}

/** Services by whom they are for; those who come are numbered without a gap. */
export function byPerson(lines: readonly ChosenLine[]): ChosenLine[] {
  const sorted = [...lines].sort((a, b) => a.person - b.person);
  const come = [...new Set(sorted.map((line) => line.person))];
  return sorted.map((line) => ({ ...line, person: come.indexOf(line.person) }));
}

/** How many come. */
export const comingTo = (lines: readonly { person: number }[]) => (lines.at(-1)?.person ?? -1) + 1;

/** The address that says it. */
export function searchOf(chosen: Chosen): string {
  const said = new URLSearchParams();
  const say = (name: string, value: string | null) => value !== null && said.append(name, value);
  say("with", chosen.link);
  say("promo", chosen.promo);
  say("where", chosen.where);
  say("of", chosen.of);
  say("who", chosen.who);
  for (const line of chosen.lines) {
    say("what", line.what);
    for (const extra of line.extras) say("extra", extra);
    say("who", line.who);
    if (line.person > 0) say("for", String(line.person));
  }
  if (chosen.line > 0) say("line", String(chosen.line));
  if (chosen.add > 0) say("add", String(chosen.add));
  if (chosen.returning) say("returning", "");
  say("from", chosen.from);
  say("day", chosen.day);
  say("at", chosen.at);
  if (chosen.lines.length > 0 || chosen.step !== "what") say("step", chosen.step);
  const text = said.toString();
  return text ? `?${text}` : "";
}

const nothing: Beside = { after: null, wanted: null };
// The promo code goes along: whoever named one at the last step and goes back to choose another time has not taken it out.
let promoHere = chosenIn(globalThis.location?.search ?? "").promo;
const listeners = new Set<() => void>();

/** Goes to what was chosen: a step that Back takes back, or in the place of the present one. */
export function go(next: Chosen, beside: Beside | undefined, replace = false) {
  const isStep = chosenIn(window.location.search).step !== next.step;
  const url = `${window.location.pathname}${searchOf(next)}`;
  promoHere = next.promo;
  if (isFramed && next.step === "you") {
    // Within another site nothing is kept on this device, neither who they are nor the card they pay with: from here on it is this one.
    window.open(url, opensIn);
    return;
  }
  window.history[replace ? "replaceState" : "pushState"](beside ?? besideHere(), "", url);
  const tell = () => {
    for (const listener of listeners) listener();
  };
  // Another step is drawn in small pieces, so that the press is answered at once; a field shows its new value in the same moment.
  if (isStep) startTransition(tell);
  else tell();
}

const besideHere = (): Beside => ({ ...nothing, ...(window.history.state as Partial<Beside> | null) });

const here = () => ({ search: window.location.search, state: JSON.stringify(besideHere()) });

/** What is chosen by the address, and what stands beside it. */
export function useChosen() {
  const [{ search, state }, setHere] = useState(here);
  useEffect(() => {
    const follow = () =>
      setHere((now) => {
        const next = here();
        return next.search === now.search && next.state === now.state ? now : next;
      });
    const back = () => {
      const there = chosenIn(window.location.search);
      if (there.promo !== promoHere)
        window.history.replaceState(
          window.history.state,
          "",
          `${window.location.pathname}${searchOf({ ...there, promo: promoHere })}`,
        );
      follow();
    };
    // It may have changed between the first drawing and this.
    follow();
    listeners.add(follow);
    window.addEventListener("popstate", back);
    return () => {
      listeners.delete(follow);
      window.removeEventListener("popstate", back);
    };
  }, []);
  return { chosen: chosenIn(search), beside: JSON.parse(state) as Beside };
}
