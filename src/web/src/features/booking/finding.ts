import { t } from "@lingui/core/macro";
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { asks } from "../../api/queries";
import type { DeskSetup } from "../../api/staff";
import { locale, longDate } from "../../shared/format";
import { readDate } from "../../shared/fields/dateText";
import { sayProblem } from "../../shared/toasts";
import type { Found } from "../clients/ClientSearch";
import { blankLine } from "./lines/lineDrafts";
import { visitDrafts } from "./visitDrafts";

const reference = /^[A-Z0-9]{8}$/i;
const folded = (text: string) => text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();

type Wanted = {
  setup: DeskSetup;
  locationId: string;
  date: string;
  /** Opens what holds in a lane; null where this person may not change it. */
  onLane: ((laneId: string) => void) | null;
  onCover: () => void;
  onDraft: (id: string) => void;
  onDay: (date: string) => void;
};

/** What words in the search field may mean besides clients: a date, a reference, a service, somebody's lane, a command. */
export function useFinding(wanted: Wanted): (typed: string) => Found[] {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { setup, locationId, date, onLane, onCover, onDraft, onDay } = wanted;
  const today = setup.locations.find((location) => location.id === locationId)?.today ?? date;
  const goTo = async (called: string) => {
    try {
      const visit = await queries.fetchQuery(asks.visitCalled(called.toUpperCase()));
      void navigate(`/day/${visit.locationId}/${visit.date}?visit=${visit.id}`);
    } catch (error) {
      sayProblem(error as Error);
    }
  };
  return (typed) => {
    const words = folded(typed).split(" ").filter(Boolean);
    const holds = (text: string) => words.every((word) => folded(text).includes(word));
    const day =
      /\d/.test(typed) && typed.length <= 20 ? readDate(typed.replace(/^go to /i, ""), today, locale()) : null;
    const book = (serviceId: string) => {
      const id = crypto.randomUUID();
      visitDrafts.set(id, locationId, { lines: [blankLine({ key: "first", serviceId })] });
      onDraft(id);
    };
    const all: Found[] = [
      ...(day ? [{ key: "day", label: t`Go to ${longDate(day)}`, isFirst: true, onChoose: () => onDay(day) }] : []),
      ...(reference.test(typed)
        ? [{ key: "visit", label: t`Visit ${typed.toUpperCase()}`, onChoose: () => void goTo(typed) }]
        : []),
    ];
    if (typed.length < 2) return all;
    const services = setup.services
      .filter((service) => service.locationIds.includes(locationId) && holds(service.name))
      .slice(0, 4)
      .map(({ id, name }) => ({ key: id, label: name, hint: t`see where it fits`, onChoose: () => book(id) }));
    const people = onLane
      ? setup.practitioners
          .filter(({ name }) => holds(`${t`block`} ${name}`))
          .slice(0, 3)
          .map(({ id, name }) => ({
            key: `lane ${id}`,
            label: name,
            hint: t`hours and blocked time of this day`,
            onChoose: () => onLane(id),
          }))
      : [];
    const views = [
      { key: "week", label: t`Week`, onChoose: () => void navigate(`/week/${locationId}/${date}`) },
      { key: "month", label: t`Month`, onChoose: () => void navigate(`/month/${locationId}/${date}`) },
      { key: "agenda", label: t`Agenda`, onChoose: () => void navigate(`/agenda/${locationId}/${date}`) },
      { key: "sheets", label: t`Print the day`, onChoose: () => void navigate(`/sheets/${locationId}/${date}`) },
      { key: "today", label: t`Go to today`, onChoose: () => onDay(today) },
      ...(onLane ? [{ key: "cover", label: t`Who needs a place`, onChoose: onCover }] : []),
    ].filter(({ label }) => holds(label));
    return [...all, ...views, ...services, ...people];
  };
}
