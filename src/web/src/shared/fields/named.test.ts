import { describe, expect, it } from "vitest";
import {
  countries,
  countryName,
  currencies,
  currencyName,
  currencyOf,
  languageName,
  localesIn,
  zones,
  zoneIn,
} from "./named";

describe("what is chosen by name", () => {
  it("countries, in alphabetical order", () => {
    expect(countryName("IE")).toBe("Ireland");
    const labels = countries().map((option) => option.label);
    expect(labels).toContain("Germany");
    expect(labels).toEqual([...labels].sort((a, b) => a.localeCompare(b, "en-IE")));
    expect(countries()).toHaveLength(new Set(countries().map((option) => option.value)).size);
  });

  it("currencies, and which goes with a country", () => {
    expect(currencyName("EUR")).toBe("Euro");
    expect(currencies().find((option) => option.value === "JPY")?.label).toBe("Japanese Yen");
    expect([currencyOf("IE"), currencyOf("GB"), currencyOf("AQ")]).toEqual(["EUR", "GBP", undefined]);
  });

  it("languages as they are written in the country, the present one always among them", () => {
    const offered = localesIn("IE", "gsw-CH").map((option) => option.value);
    expect(offered).toContain("en-IE");
    expect(offered).toContain("gsw-CH");
    expect(languageName("en-GB")).toContain("English");
  });

  it("time zones, also one this browser does not know", () =>
    expect(zones("Mars/Olympus").slice(0, 1)).toEqual([{ value: "Mars/Olympus", label: "Mars/Olympus" }]));

  it("takes a code nobody knows for its own name", () => expect(currencyName("1")).toBe("1"));
});

describe("the time zone of a country", () => {
  it("is the only one it has", () => expect(zoneIn("IE", "UTC")).toBe("Europe/Dublin"));
  it("stays what it is where the country has several", () =>
    expect(zoneIn("US", "America/Chicago")).toBe("America/Chicago"));
  it("stays what it is where nobody knows better", () => expect(zoneIn("ZZ", "Europe/Dublin")).toBe("Europe/Dublin"));
});
