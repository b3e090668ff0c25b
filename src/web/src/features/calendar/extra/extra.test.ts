import { expect, it } from "vitest";
import { datesWords, extraWords, freshExtra, peopleWords, weekdaysWords } from "./extra";

it.each([
  ["2027-03-01", "2027-03-08", "2027-03-12"],
  ["2027-03-07", "2027-03-08", "2027-03-12"],
  ["2027-12-29", "2028-01-03", "2028-01-07"],
])("on %s the workdays of next week are proposed", (today, from, until) => {
  expect(freshExtra(today, "mill")).toMatchObject({ from, until, practitionerIds: [], shift: { locationId: "mill" } });
});

it.each([
  [[], "every day"],
  [["friday", "thursday", "wednesday", "tuesday", "monday"], "Monday to Friday"],
  [["wednesday"], "Wednesday"],
  [["sunday", "monday"], "Mon and Sun"],
] as const)("%j are %s", (weekdays, words) => {
  expect(weekdaysWords(weekdays)).toBe(words);
});

it("one day is not written twice", () => {
  expect(datesWords("2027-03-22", "2027-03-22")).toBe("Mon 22 Mar 2027");
  expect(datesWords("2027-03-22", "2027-03-26")).toBe("Mon 22 Mar 2027 to Fri 26 Mar 2027");
});

it("people are named in the order of the house, and what was asked in one line", () => {
  const practitioners = [
    { id: "a", name: "Ada" },
    { id: "b", name: "Ben" },
    { id: "c", name: "Cara" },
  ] as never;
  expect(peopleWords(["c", "a"], { practitioners })).toBe("Ada and Cara");
  expect(extraWords({ ...freshExtra("2027-03-01", "mill"), weekdays: ["tuesday"] })).toBe(
    "Mon 8 Mar 2027 to Fri 12 Mar 2027, Tuesday, 09:00 – 17:00",
  );
});
