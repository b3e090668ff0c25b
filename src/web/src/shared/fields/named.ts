import { locale } from "../format";
import type { Option } from "../sentence/Choices";

const codes =
  "AD AE AF AG AI AL AM AO AR AS AT AU AW AX AZ BA BB BD BE BF BG BH BI BJ BL BM BN BO BQ BR BS BT BW BY BZ CA CC CD CF CG CH " +
  "CI CK CL CM CN CO CR CU CV CW CX CY CZ DE DJ DK DM DO DZ EC EE EG EH ER ES ET FI FJ FK FM FO FR GA GB GD GE GF GG GH GI GL " +
  "GM GN GP GQ GR GT GU GW GY HK HN HR HT HU ID IE IL IM IN IO IQ IR IS IT JE JM JO JP KE KG KH KI KM KN KP KR KW KY KZ LA LB " +
  "LC LI LK LR LS LT LU LV LY MA MC MD ME MF MG MH MK ML MM MN MO MP MQ MR MS MT MU MV MW MX MY MZ NA NC NE NF NG NI NL NO NP " +
  "NR NU NZ OM PA PE PF PG PH PK PL PM PN PR PS PT PW PY QA RE RO RS RU RW SA SB SC SD SE SG SH SI SJ SK SL SM SN SO SR SS ST " +
  "SV SX SY SZ TC TD TG TH TJ TK TL TM TN TO TR TT TV TW TZ UA UG US UY UZ VA VC VE VG VI VN VU WF WS YE YT ZA ZM ZW";
const languages =
  "en de fr es it nl pt pl cs da sv nb fi el hu ro bg hr sk sl et lv lt ga cy mt uk tr he ar ja ko zh".split(" ");
const euro = "AD AT BE BG CY DE EE ES FI FR GR HR IE IT LT LU LV MC MT NL PT SI SK SM VA".split(" ");
const otherMoney: Record<string, string> = {
  AU: "AUD",
  CA: "CAD",
  CH: "CHF",
  CZ: "CZK",
  DK: "DKK",
  GB: "GBP",
  HU: "HUF",
  JP: "JPY",
  LI: "CHF",
  NO: "NOK",
  NZ: "NZD",
  PL: "PLN",
  RO: "RON",
  SE: "SEK",
  US: "USD",
};

const name = (type: Intl.DisplayNamesType, code: string) => {
  try {
    return new Intl.DisplayNames(locale(), { type }).of(code) ?? code;
  } catch {
    return code;
  }
};
const sorted = (options: Option[]) => options.sort((a, b) => a.label.localeCompare(b.label, locale()));

/** What people call a country, a currency, a language; codes are what programs call them. */
export const countryName = (code: string) => name("region", code);
export const currencyName = (code: string) => name("currency", code);
export const languageName = (tag: string) => name("language", tag);

/** All countries by name. */
export const countries = (): Option[] =>
  sorted(codes.split(" ").map((code) => ({ value: code, label: countryName(code) })));

/** All currencies by name. */
export const currencies = (): Option[] =>
  sorted(Intl.supportedValuesOf("currency").map((code) => ({ value: code, label: currencyName(code), hint: code })));

/** The languages dates and money can be written in, as in a country; what is chosen now is among them. */
export const localesIn = (country: string, present: string): Option[] =>
  sorted(
    [...new Set([present, ...languages.map((language) => `${language}-${country}`)])]
      .filter(Boolean)
      .map((tag) => ({ value: tag, label: languageName(tag) })),
  );

/** All time zones; the last part of their name first, as people look for them. */
export const zones = (present: string): Option[] =>
  [...new Set([present, ...Intl.supportedValuesOf("timeZone")])].filter(Boolean).map((zone) => ({
    value: zone,
    label: zone.replaceAll("_", " "),
  }));

/** The money people pay with in a country, where we know it. */
export const currencyOf = (country: string): string | undefined =>
  euro.includes(country) ? "EUR" : otherMoney[country];

/** The time zone of a country: the present one where it is one of the country's, otherwise its first, where the browser knows it. */
export function zoneIn(country: string, present: string): string {
  const there = new Intl.Locale(`und-${country}`) as Intl.Locale & {
    timeZones?: string[];
    getTimeZones?: () => string[];
  };
  const zones = there.getTimeZones?.() ?? there.timeZones ?? [];
  return zones.includes(present) ? present : (zones[0] ?? present);
}
