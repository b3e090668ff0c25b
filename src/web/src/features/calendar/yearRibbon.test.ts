import { describe, expect, it } from "vitest";
import { nextOf } from "./YearRibbon";

describe("a day on the year's ribbon", () => {
  it("lies where it is next", () => {
    expect(nextOf({ date: "2020-12-25", yearly: true }, "2027-03-02")).toBe("2027-12-25");
    expect(nextOf({ date: "2020-01-01", yearly: true }, "2027-03-02")).toBe("2028-01-01");
    expect(nextOf({ date: "2020-03-02", yearly: true }, "2027-03-02")).toBe("2027-03-02");
    expect(nextOf({ date: "2027-05-05", yearly: false }, "2027-03-02")).toBe("2027-05-05");
  });
});
