import { plural, t } from "@lingui/core/macro";
import type { Guarantee } from "../../api/setup";
import { andWords, money, timeWords } from "../../shared/format";
import { weekdays } from "../../shared/inputs";

/** What a rule asks for: "a deposit of 30 %". */
export function demandWords({ demand, value }: Pick<Guarantee, "demand" | "value">, currency: string) {
  switch (demand) {
    case "nothing":
      return t`nothing`;
    case "card":
      return t`a card on file`;
    case "fixed":
      return t`a deposit of ${money({ amount: value ?? 0, currency })}`;
    case "percent":
      return t`a deposit of ${value ?? 0} %`;
    case "all":
      return t`all of it`;
  }
}

/** What may be asked for, as it is chosen. */
export const demands: [Guarantee["demand"], string][] = [
  ["nothing", t`nothing`],
  ["card", t`a card on file`],
  ["percent", t`a part of the price`],
  ["fixed", t`an amount`],
  ["all", t`all of it`],
];

/** Whom a rule asks: "new clients". */
export function whomWords({ onlyNew, noShows, months }: Pick<Guarantee, "onlyNew" | "noShows" | "months">) {
  if (noShows) {
    const missed = plural(noShows, { one: "missed # visit", other: "missed # visits" });
    const within = plural(months ?? 12, { one: "# month", other: "# months" });
    return onlyNew ? t`new clients who ${missed} in ${within}` : t`clients who ${missed} in ${within}`;
  }
  return onlyNew ? t`new clients` : t`everybody`;
}

/** Which visits a rule is for: "a visit from €80 on Fri and Sat". */
export function visitWords({ fromPrice, weekdays: days, hours }: Guarantee, currency: string) {
  const names = weekdays.filter(([day]) => days?.includes(day)).map(([, name]) => name);
  const parts = [
    fromPrice ? t`from ${money({ amount: fromPrice, currency })}` : "",
    names.length > 0 ? t`on ${andWords(names)}` : "",
    hours ? t`between ${timeWords(hours.from)} and ${timeWords(hours.until)}` : "",
  ].filter(Boolean);
  return parts.length > 0 ? t`a visit ${parts.join(" ")}` : t`any visit`;
}

/** Percent of a price in words: "nothing", "50 %", "all of it". */
export const percentWords = (percent: number) =>
  percent === 0 ? t`nothing` : percent === 100 ? t`all of it` : t`${percent} %`;

/** "48 hours" */
export const hourWords = (hours: number) => plural(hours, { one: "# hour", other: "# hours" });
