import { plural, t } from "@lingui/core/macro";
import { afterEach, expect, it } from "vitest";
import { i18n } from "#words";

afterEach(() => i18n.loadAndActivate({ locale: "en", messages: {} }));

const said = () => t`${"Ines"} is not on shift.`;

it("what is written in the code is what is said until another language is there", () => {
  expect(said()).toBe("Ines is not on shift.");
  const id = Object.keys(catalogOf(() => said()))[0]!;
  i18n.loadAndActivate({ locale: "de", messages: { [id]: [["0"], " arbeitet dann nicht."] } });
  expect(said()).toBe("Ines arbeitet dann nicht.");
});

it.each([
  [0, "0 visits"],
  [1, "1 visit"],
  [12, "12 visits"],
  [1200, "1,200 visits"],
])("%i is said as %s", (count, words) => {
  expect(plural(count, { one: "# visit", other: "# visits" })).toBe(words);
});

/** The identities that are asked for. */
function catalogOf(say: () => unknown) {
  const asked: Record<string, true> = {};
  const stop = i18n.on("missing", ({ id }) => (asked[id] = true));
  say();
  stop();
  return asked;
}
