import type { VisitState } from "../../api/staff";
import { chosenHere } from "../../shared/chosenHere";

const tints = 7;
const states: VisitState[] = [
  "requested",
  "answered",
  "confirmed",
  "arrived",
  "inTreatment",
  "done",
  "noShow",
  "cancelled",
];
let categories: string[] = [];
let practitioners: string[] = [];

/** What the tint of a block goes by. */
export type TintBy = "category" | "practitioner" | "state";

/** What the viewer has chosen, kept in this browser. */
export const tintChoice = chosenHere<TintBy>("kingcup-tint", "category", ["category", "practitioner", "state"]);

/** Gives categories and practitioners their tints, in house order. */
export const setTints = (categoryIds: string[], practitionerIds: string[] = []) => {
  categories = categoryIds;
  practitioners = practitionerIds;
};

const nth = (place: number) => `tint${Math.max(0, place) % tints}`;

/** The tint of a category. */
export const tintOf = (categoryId: string) => nth(categories.indexOf(categoryId));

type Tinted = { categoryId: string; practitioners: readonly { id: string }[] };

/** The tint of a line of a visit, by what was chosen. */
export function tintBy(by: TintBy, line: Tinted, state: VisitState): string {
  if (by === "state") return nth(states.indexOf(state));
  if (by === "practitioner") return nth(practitioners.indexOf(line.practitioners[0]?.id ?? ""));
  return tintOf(line.categoryId);
}
