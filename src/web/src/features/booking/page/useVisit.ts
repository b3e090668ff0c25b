import { useQuery } from "@tanstack/react-query";
import type { Booked, Business, Hold, Price, Service } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { useState } from "react";
import { go, useChosen, type Beside, type Chosen } from "./address";
import { useAsWhom } from "./useAsWhom";
import { useHold } from "./useHold";
import { usePaying } from "./usePaying";
import { cameFor, linesOf, stepAfter, type Wish } from "./lines";

/** The visit a client is putting together, as the address says it, and the ways to change it. */
export function useVisit(business: Business) {
  const { chosen, beside } = useChosen();
  const [booked, setBooked] = useState<Booked | null>(null);
  const paying = usePaying();
  const whom = useAsWhom(business.access);
  const services = business.categories.flatMap((category) => category.services);
  const service = services.find((other) => other.id === chosen.what && other.bookableOnline) ?? null;
  const asked = business.locations.find((other) => other.id === chosen.where);
  const elsewhere = service && asked && !service.locationIds.includes(asked.id);
  const location =
    (!elsewhere && asked) ||
    business.locations.find((other) => service?.locationIds.includes(other.id)) ||
    business.locations[0]!;
  const who = service?.practitioners.find((practitioner) => practitioner.id === chosen.who) ?? null;
  const extras = service?.addOns.filter((addOn) => chosen.extras.includes(addOn.id)) ?? [];
  // Nothing can be chosen of a service that is not there any more.
  const step = service || chosen.step === "where" ? chosen.step : "what";
  const wish: Wish | null = service && {
    locationId: location.id,
    service,
    practitionerId: who?.id ?? null,
    addOnIds: extras.map((extra) => extra.id),
    returning: chosen.returning,
    after: beside.after,
    link: chosen.link,
    promo: chosen.promo,
    as: whom.person?.id ?? null,
  };
  const priced = useQuery({
    ...visitorsAsk.price({
      lines: wish ? linesOf(wish) : [],
      link: chosen.link,
      locationId: location.id,
      promo: chosen.promo,
      start: chosen.step === "you" ? chosen.at : null,
    }),
    enabled: wish !== null,
  });
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
    service,
    services,
    location,
    who,
    extras,
    step,
    wish,
    holding,
    price: exactly(holding.kept) ?? priced.data ?? null,
    change,
    /** A service, and with it everything that follows from it anew. */
    choose: (next: Service, more: Beside) => {
      const where = next.locationIds.includes(location.id) ? location.id : next.locationIds[0]!;
      const who = chosen.what === null ? cameFor(chosen.who, next, where) : null;
      const step = stepAfter(next, where, who);
      change({ what: next.id, where, who, extras: [], at: null, day: null, from: null, step }, more);
    },
    again: () => {
      setBooked(null);
      change({ what: null, who: null, extras: [], at: null, day: null, from: null, step: "what" }, noneBeside);
    },
  };
}

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
