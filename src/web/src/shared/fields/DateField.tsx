import { useToday } from "../today";
import { DateEntry, type DateProps } from "./DateEntry";

/** A date, by the day of the house. */
export const DateField = (props: DateProps) => <DateEntry {...props} today={useToday()} />;
