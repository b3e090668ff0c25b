import { expect, test } from "vitest";
import { stepIn } from "./steps";

test("the address says which booking is moved or cancelled", () => {
  expect(stepIn("")).toEqual({ does: "looks", id: "" });
  expect(stepIn("?move=a1")).toEqual({ does: "moves", id: "a1" });
  expect(stepIn("?cancel=b2")).toEqual({ does: "cancels", id: "b2" });
  expect(stepIn("?move=")).toEqual({ does: "looks", id: "" });
});
