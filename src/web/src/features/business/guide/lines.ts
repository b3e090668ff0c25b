import { t } from "@lingui/core/macro";
import type { ReactNode } from "react";
import { BusinessLine } from "./BusinessLine";
import { HoursLine } from "./HoursLine";
import { NeedsLine } from "./NeedsLine";
import { PeopleLine } from "./PeopleLine";
import { RoomsLine } from "./RoomsLine";
import { RulesLine } from "./RulesLine";
import { ServicesLine } from "./ServicesLine";
import type { GuideProps } from "./guideProps";

/** The sentences in the order of thinking, each with the fields of the request whose faults belong to it. */
export const linesOfGuide: { name: string; fields: string[]; Line: (props: GuideProps) => ReactNode }[] = [
  {
    name: t`Business`,
    fields: ["name", "place", "address", "zone", "region", "currency", "locale", "tax"],
    Line: BusinessLine,
  },
  { name: t`Hours`, fields: ["opening"], Line: HoursLine },
  { name: t`People`, fields: ["people"], Line: PeopleLine },
  { name: t`Rooms`, fields: ["rooms"], Line: RoomsLine },
  { name: t`Services`, fields: ["services"], Line: ServicesLine },
  { name: t`Needs`, fields: ["qualifications"], Line: NeedsLine },
  { name: t`Rules`, fields: ["online"], Line: RulesLine },
];
