import { t } from "@lingui/core/macro";
import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";

export const teamTabs: [string, string][] = [
  ["/team", t`People`],
  ["/team/qualifications", t`Qualifications`],
  ["/team/extra-shifts", t`Extra shifts`],
];
export const usePractitioners = () => useQuery(asks.practitioners());
export const useLocations = () => useQuery(asks.locations());
export const useReadiness = () => useQuery(asks.readiness());
