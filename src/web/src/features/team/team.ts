import { useQuery } from "@tanstack/react-query";
import { read, type Location, type Practitioner, type Readiness } from "../../api/setup";

export const teamTabs: [string, string][] = [
  ["/team", "People"],
  ["/team/qualifications", "Qualifications"],
];
export const usePractitioners = () =>
  useQuery({ queryKey: ["practitioners"], queryFn: () => read<Practitioner[]>("/setup/practitioners") });
export const useLocations = () =>
  useQuery({ queryKey: ["locations"], queryFn: () => read<Location[]>("/setup/locations") });
export const useReadiness = () =>
  useQuery({ queryKey: ["readiness"], queryFn: () => read<Readiness>("/setup/readiness") });
