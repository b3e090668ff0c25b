import { useQueryClient } from "@tanstack/react-query";
import { asks } from "../api/queries";

/** The date by the server's clock at the first location; the setup is loaded before any page. */
export function useToday(): string {
  const setup = useQueryClient().getQueryData(asks.desk().queryKey);
  return setup?.locations[0]?.today ?? (setup?.now ?? new Date().toISOString()).slice(0, 10);
}

/** The locations, as everyone who sees the book may know them. */
export const usePlaces = () => useDeskSetup().locations;

/** What the desk knows of the business. */
export const useDeskSetup = () => useQueryClient().getQueryData(asks.desk().queryKey)!;
