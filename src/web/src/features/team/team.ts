import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";

export const teamTabs: [string, string][] = [
  ["/team", "People"],
  ["/team/qualifications", "Qualifications"],
];
export const usePractitioners = () => useQuery(asks.practitioners());
export const useLocations = () => useQuery(asks.locations());
export const useReadiness = () => useQuery(asks.readiness());
