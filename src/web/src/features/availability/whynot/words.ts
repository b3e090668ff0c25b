import { t } from "@lingui/core/macro";
import type { ReasonText } from "../../../api/setup";
import type { Look } from "../../../shared/ribbon/Piece";
import type { Gate } from "./dayRows";

/** What limits a day, in everyday words. */
export const gateWords: Record<Gate, string> = {
  client: t`The client`,
  service: t`The service`,
  date: t`How far ahead, and which days`,
  openingHours: t`Opening hours`,
  startGrid: t`Start times`,
  practitioner: t`Who does it`,
  roomAndEquipment: t`Room and equipment`,
  gap: t`Gaps nobody could use`,
};

/** A reason in a word or two, for a ribbon. */
const short: Partial<Record<ReasonText["code"], string>> = {
  tooSoon: t`too soon`,
  tooFarAhead: t`too far ahead`,
  notThatWeekday: t`not on this weekday`,
  outOfSeason: t`out of season`,
  stoppedOnline: t`stopped online`,
  locationClosed: t`closed`,
  outsideOpeningHours: t`closed, or ends after closing`,
  offShift: t`not on shift`,
  shiftKept: t`kept for other services`,
  practitionerElsewhere: t`elsewhere`,
  onBreak: t`break`,
  practitionerAway: t`away`,
  practitionerBlocked: t`blocked`,
  practitionerTaken: t`taken`,
  travelTooShort: t`on the way`,
  notQualified: t`not qualified`,
  qualificationEnded: t`qualification ended`,
  notChosenForService: t`does not do it`,
  dailyLimit: t`enough for the day`,
  practitionerRetired: t`left`,
  roomTaken: t`every room taken`,
  roomBlocked: t`blocked`,
  equipmentTaken: t`equipment taken`,
  noSuchRoom: t`no such room`,
  noSuchEquipment: t`no such equipment`,
  leavesGap: t`leaves a gap`,
  offGrid: t`not a start time`,
  noCombination: t`they do not go together`,
};

export const shortOf = (code: ReasonText["code"]) => short[code] ?? t`not bookable`;

/** How a reason looks on a ribbon: something held, something closed, a break. */
export const lookOf = (code: ReasonText["code"]): Look =>
  code === "practitionerTaken" || code === "ownVisit"
    ? "taken"
    : code === "onBreak" || code === "practitionerBlocked" || code === "practitionerAway" || code === "roomBlocked"
      ? "break"
      : code === "roomTaken" || code === "equipmentTaken" || code === "noCombination"
        ? "bad"
        : "closed";

/** On which page of a practitioner a reason is changed. */
const practitionerTab: Partial<Record<ReasonText["code"], string>> = {
  offShift: "rota",
  shiftKept: "rota",
  onBreak: "rota",
  practitionerBlocked: "calendar",
  practitionerAway: "calendar",
  notQualified: "services",
};

/** Where the setting behind a reason is changed; null where nobody can. */
export function ownerPath(reason: ReasonText): string | null {
  switch (reason.ownerKind) {
    case "business":
      return "/setup/booking-page";
    case "location":
      return "/setup/locations";
    case "category":
      return `/services?category=${reason.ownerId}`;
    case "service":
      return `/services/${reason.ownerId}`;
    case "practitioner":
      return `/team/${reason.ownerId}/${practitionerTab[reason.code] ?? ""}`;
    case "room":
    case "equipment":
      return "/rooms";
    default:
      return null;
  }
}
