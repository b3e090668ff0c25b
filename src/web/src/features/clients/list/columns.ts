import { keptHere } from "../../../shared/chosenHere";

/** What a list of clients can show beside their names, and how wide it is beside the others. */
export const columnWidths = {
  phone: "minmax(0, 4fr)",
  email: "minmax(0, 6fr)",
  known: "minmax(0, 4fr)",
  born: "120px",
  source: "minmax(0, 3fr)",
  visits: "64px",
  noShows: "84px",
  lastVisit: "120px",
  nextVisit: "120px",
} as const;
export type Column = keyof typeof columnWidths;

export const allColumns = Object.keys(columnWidths) as Column[];
const usual: Column[] = ["phone", "email", "known", "visits", "lastVisit", "nextVisit"];

/** The columns a text names, in the order they are shown in; what is no column is passed over. */
export const columnsOf = (text: string): Column[] => {
  const named = text.split(" ");
  return allColumns.filter((column) => named.includes(column));
};

/** The columns after one was put in or taken out, as they are kept. */
export const withColumn = (text: string, column: Column, isShown: boolean): string =>
  allColumns.filter((one) => (one === column ? isShown : columnsOf(text).includes(one))).join(" ");

/** The widths of a list with these columns, the name before them. */
export const templateOf = (columns: Column[]): string =>
  ["minmax(0, 5fr)", ...columns.map((column) => columnWidths[column])].join(" ");

/** Which columns the viewer wants, kept in this browser. */
export const columnChoice = keptHere<string>(
  "kingcup-client-columns",
  usual.join(" "),
  (kept): kept is string => kept !== "",
);
