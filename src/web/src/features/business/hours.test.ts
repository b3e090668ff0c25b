import { expect, it } from "vitest";
import { hoursLike, hoursOn, type Hours } from "./hours";

const all: Hours[] = [
  { weekday: "monday", from: "14:00:00", until: "18:00:00" },
  { weekday: "monday", from: "09:00:00", until: "12:00:00" },
  { weekday: "friday", from: "08:00:00", until: "13:00:00" },
];

it("gives the hours of a day in order, and where each stands in the list", () =>
  expect(hoursOn(all, "monday").map(({ from, index }) => [from, index])).toEqual([
    ["09:00:00", 1],
    ["14:00:00", 0],
  ]));

it("makes days like another, and leaves that one and the rest alone", () => {
  const copied = hoursLike(all, "monday", ["monday", "tuesday", "friday"]);
  expect(hoursOn(copied, "monday")).toHaveLength(2);
  expect(hoursOn(copied, "tuesday").map(({ from }) => from)).toEqual(["09:00:00", "14:00:00"]);
  expect(hoursOn(copied, "friday").map(({ until }) => until)).toEqual(["12:00:00", "18:00:00"]);
  expect(hoursOn(hoursLike(all, "sunday", ["friday"]), "friday")).toHaveLength(0);
});
