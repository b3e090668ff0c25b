import { t } from "@lingui/core/macro";
import type { VisitState } from "../../api/staff";
import { marks } from "./BlockMark";

const order: VisitState[] = ["requested", "answered", "confirmed", "arrived", "inTreatment", "done"];
const verbs: Partial<Record<VisitState, string>> = {
  confirmed: t`Approve`,
  arrived: t`Arrived`,
  inTreatment: t`In treatment`,
  done: t`Done`,
  noShow: t`Did not come`,
};

/** Whether somebody still has to agree to it. */
export const isAsked = (state: VisitState) => state === "requested" || state === "answered";

/** Whether a step goes on rather than back. */
export const isForward = (from: VisitState, to: VisitState) =>
  order.indexOf(to) > order.indexOf(from) && from !== "noShow" && from !== "cancelled";

/** Forward steps by their name, backward ones as what they are: taking a wrong press back. */
export const verb = (from: VisitState, to: VisitState) =>
  to === "noShow" || isForward(from, to) || (from === "noShow" && to === "arrived")
    ? verbs[to]
    : from === "answered"
      ? t`Take the answer back`
      : t`Not ${marks[from].word}`;
