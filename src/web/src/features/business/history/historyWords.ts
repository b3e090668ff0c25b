import { t } from "@lingui/core/macro";
import type { HistoryRow } from "../../../api/setup";

const kinds: Record<string, string> = {
  business: t`Business`,
  "booking-page": t`Booking page`,
  location: t`Location`,
  practitioner: t`Practitioner`,
  qualification: t`Qualification`,
  room: t`Room`,
  equipment: t`Equipment`,
  feature: t`Feature`,
  category: t`Category`,
  service: t`Service`,
  "add-on": t`Add-on`,
  question: t`Question`,
  guarantee: t`Rule of deposits`,
  promo: t`Promo code`,
  policy: t`What cancelling costs`,
  account: t`Sign-in`,
  block: t`Blocked time`,
  import: t`Import`,
};

type Told = Pick<HistoryRow, "subjectKind" | "subjectId" | "before" | "after">;

const parsed = (text: string | null | undefined): Record<string, unknown> => {
  try {
    const value: unknown = text ? JSON.parse(text) : {};
    return typeof value === "object" && value !== null && !Array.isArray(value)
      ? (value as Record<string, unknown>)
      : {};
  } catch {
    return {};
  }
};
const nameIn = (record: Record<string, unknown>) => {
  const found = Object.entries(record).find(([key]) => ["name", "text"].includes(key.toLowerCase()))?.[1];
  return typeof found === "string" && found.trim() ? found.trim() : undefined;
};

/** What kind of thing was changed, as it is called on the screens. */
export const kindWords = (kind: string) => kinds[kind] ?? kind;

/** What it is called: as it was named after the change, before it, or now. */
export const nameOf = (row: Told, names: ReadonlyMap<string, string>) =>
  nameIn(parsed(row.after)) ?? nameIn(parsed(row.before)) ?? names.get(row.subjectId);

/** The address of what was changed, or null where it has none. */
export function pathOf({ subjectKind: kind, subjectId: id }: Told): string | null {
  switch (kind) {
    case "business":
      return "/setup/business";
    case "booking-page":
      return "/setup/booking-page";
    case "location":
      return `/setup/locations?open=${id}`;
    case "practitioner":
      return `/team/${id}`;
    case "qualification":
      return "/team/qualifications";
    case "room":
    case "equipment":
      return `/rooms?open=${id}`;
    case "feature":
      return "/rooms";
    case "category":
      return `/services?category=${id}`;
    case "service":
      return `/services/${id}`;
    case "add-on":
      return `/services/add-ons?open=${id}`;
    case "promo":
      return `/services/promos?open=${id}`;
    case "guarantee":
    case "policy":
      return "/setup/deposits";
    case "question":
      return `/setup/booking-page?question=${id}`;
    case "account":
      return `/setup/accounts?open=${id}`;
    default:
      return null;
  }
}

const fieldWords = (field: string) =>
  field
    .replaceAll(/([a-z])([A-Z])/g, (_, before: string, after: string) => `${before} ${after.toLowerCase()}`)
    .toLowerCase();
const words = (value: unknown): string =>
  value === undefined || value === null || value === ""
    ? t`nothing`
    : typeof value === "boolean"
      ? value
        ? t`yes`
        : t`no`
      : typeof value === "string"
        ? value
        : Array.isArray(value) && value.every((item) => typeof item === "string" || typeof item === "number")
          ? value.join(", ") || t`nothing`
          : JSON.stringify(value).slice(0, 160);

/** Only what differs, field by field. */
export function differences({ before, after }: Told): { field: string; was: string; is: string }[] {
  const lower = (record: Record<string, unknown>) =>
    new Map(Object.entries(record).map(([key, value]) => [fieldWords(key), value]));
  const [was, is] = [lower(parsed(before)), lower(parsed(after))];
  return [...new Set([...was.keys(), ...is.keys()])]
    .filter((field) => !/(^|\s)(ids?|version)$/.test(field))
    .filter((field) => JSON.stringify(was.get(field) ?? null) !== JSON.stringify(is.get(field) ?? null))
    .map((field) => ({ field, was: words(was.get(field)), is: words(is.get(field)) }));
}
