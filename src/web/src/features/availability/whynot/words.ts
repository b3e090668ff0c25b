import type { ReasonText } from "../../../api/setup";
import type { Look } from "../../../shared/ribbon/Piece";
import type { Gate } from "./dayRows";

/** What limits a day, in everyday words. */
export const gateWords: Record<Gate, string> = {
  client: "The client",
  service: "The service",
  date: "How far ahead, and which days",
  openingHours: "Opening hours",
  startGrid: "Start times",
  practitioner: "Who does it",
  roomAndEquipment: "Room and equipment",
  gap: "Gaps nobody could use",
};

/** A reason in a word or two, for a ribbon. */
const short: Partial<Record<ReasonText["code"], string>> = {
  tooSoon: "too soon",
  tooFarAhead: "too far ahead",
  notThatWeekday: "not on this weekday",
  outOfSeason: "out of season",
  stoppedOnline: "stopped online",
  locationClosed: "closed",
  outsideOpeningHours: "closed, or ends after closing",
  offShift: "not on shift",
  shiftKept: "kept for other services",
  practitionerElsewhere: "elsewhere",
  onBreak: "break",
  practitionerAway: "away",
  practitionerBlocked: "blocked",
  practitionerTaken: "taken",
  travelTooShort: "on the way",
  notQualified: "not qualified",
  qualificationEnded: "qualification ended",
  notChosenForService: "does not do it",
  dailyLimit: "enough for the day",
  practitionerRetired: "left",
  roomTaken: "every room taken",
  roomBlocked: "blocked",
  equipmentTaken: "equipment taken",
  noSuchRoom: "no such room",
  noSuchEquipment: "no such equipment",
  leavesGap: "leaves a gap",
  offGrid: "not a start time",
  noCombination: "they do not go together",
};

export const shortOf = (code: ReasonText["code"]) => short[code] ?? "not bookable";

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
