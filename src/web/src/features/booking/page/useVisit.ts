import { useQuery } from "@tanstack/react-query";
import type { Booked, Business, Hold, Price, Service } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { useState } from "react";
import { byPerson, go, useChosen, type Beside, type Chosen, type ChosenLine } from "./address";
import { useLost, useAsWhom } from "./useAsWhom";
import { useHold } from "./useHold";
import { usePaying } from "./usePaying";
import { cameFor, linesOf, placesOf, stepAfter, withLine, type Wish } from "./lines";

/** A service that is chosen, with what is chosen of it. */
export type VisitLine = {
  service: Service;
  who: Service["practitioners"][number] | null;
  extras: Service["addOns"];
  person: number;
};

/** The visit a client is putting together, as the address says it, and the ways to change it. */
export function useVisit(business: Business) {
  const { chosen: said, beside } = useChosen();
  const [booked, setBooked] = useState<Booked | null>(null);
  const paying = usePaying();
  const whom = useAsWhom(business.access);
  const services = business.categories.flatMap((category) => category.services);
  const { chosen, lines, location } = standing(business, services, said);
  // The line that is being chosen; there is none yet where one more is.
  const line = lines[chosen.line] ?? null;
  // Nothing can be chosen of a service that is not there any more.
  const isOfLine = chosen.step === "extras" || chosen.step === "who";
  const stands = chosen.step === "where" || (isOfLine ? line !== null : lines.length > 0);
  const step = stands ? chosen.step : "what";
  const wish: Wish | null = lines[0]
    ? {
        locationId: location.id,
        lines: lines.map(({ service, who, extras, person }) => ({
          person,
          service,
          practitionerId: who?.id ?? null,
          addOnIds: extras.map((extra) => extra.id),
        })),
        returning: chosen.returning,
        after: beside.after,
        link: chosen.link,
        promo: chosen.promo,
        as: whom.person?.id ?? null,
      }
    : null;
  const priced = useQuery({
    ...visitorsAsk.price({
      lines: wish ? linesOf(wish) : [],
      link: chosen.link,
      locationId: location.id,
      promo: chosen.promo,
      start: chosen.step === "you" ? chosen.at : null,
      as: wish?.as ?? null,
    }),
    enabled: wish !== null,
  });
  useLost(whom, priced.error);
  // Whoever they are is asked for last: from there on the time is theirs for a while.
  const isLast = chosen.step === "you" && !booked && !paying.token && !whom.isAsking;
  const holding = useHold(wish, isLast ? chosen.at : null);
  const change = (next: Partial<Chosen>, more?: Beside, replace = false) =>
    go({ ...chosen, where: location.id, ...next }, more, replace);
  return {
    chosen,
    beside,
    booked,
    setBooked,
    paying,
    whom,
    services,
    location,
    lines,
    line,
    step,
    wish,
    holding,
    price: exactly(holding.kept) ?? priced.data ?? null,
    change,
    /** A service in the place of the one that is being chosen, or one more; everything that follows from it anew. */
    choose: (next: Service, more?: Beside) => {
      const where = next.locationIds.includes(location.id) ? location.id : next.locationIds[0]!;
      const who = lines.length === 0 ? cameFor(chosen.who, next, where) : null;
      const chosenNow = withLine(chosen, chosen.line, { what: next.id, extras: [], who });
      change({ ...chosenNow, where, who: null, from: null, step: stepAfter(next, where, who) }, more);
    },
    /** A visit of this service alone. */
    begin: (next: Service, more: Beside) => {
      const where = next.locationIds.includes(location.id) ? location.id : next.locationIds[0]!;
      const alone = { ...nothing, lines: [{ what: next.id, extras: [], who: null, person: 0 }] };
      change({ ...alone, where, step: stepAfter(next, where, null) }, more);
    },
    again: () => {
      setBooked(null);
      change({ ...nothing, step: "what" }, noneBeside);
    },
  };
}

const nothing = { lines: [], line: 0, add: 0, who: null, at: null, day: null, from: null };

/** What of it can be had: services that are booked here, all of them at one place. */
function standing(business: Business, services: Service[], said: Chosen) {
  const found = said.lines.flatMap((line) => {
    if (line.person >= Number(business.mostPeople)) return [];
    const service = services.find((other) => other.id === line.what && other.bookableOnline);
    return service ? [{ line, service }] : [];
  });
  const asked = business.locations.find((other) => other.id === said.where);
  const places = placesOf(found);
  const isDoneAt = (id: string) => found.length === 0 || places.includes(id);
  const location =
    (asked && isDoneAt(asked.id) && asked) ||
    business.locations.find((other) => isDoneAt(other.id)) ||
    business.locations.find((other) => found[0]!.service.locationIds.includes(other.id)) ||
    business.locations[0]!;
  const here = found
    .filter(({ service }) => service.locationIds.includes(location.id))
    .slice(0, Number(business.mostLines));
  const chosen: Chosen = {
    ...said,
    lines: byPerson(here.map(({ line }) => line)),
    line: Math.min(said.line, here.length),
  };
  return { chosen, location, lines: chosen.lines.map((line, i) => lineOf(line, here[i]!.service)) };
}

const lineOf = (line: ChosenLine, service: Service): VisitLine => ({
  service,
  who: service.practitioners.find((practitioner) => practitioner.id === line.who) ?? null,
  extras: service.addOns.filter((addOn) => line.extras.includes(addOn.id)),
  person: line.person,
});

/** What a time that is kept costs and takes: with whoever it is, so nothing of it is open any more. */
const exactly = (kept: Hold | null): Price | null =>
  kept && {
    minutes: (Date.parse(kept.end) - Date.parse(kept.start)) / 60_000,
    price: kept.price,
    isFrom: false,
    due: kept.due,
    needsCard: kept.needsCard,
    promo: kept.promo,
  };

export const noneBeside: Beside = { after: null, wanted: null };
export type Visit = ReturnType<typeof useVisit>;
