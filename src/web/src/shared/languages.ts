import { locale } from "./format";

/** The languages that are offered to write in (ISO 639). */
export const languages = [
  "en",
  "de",
  "fr",
  "es",
  "it",
  "pt",
  "nl",
  "pl",
  "cs",
  "da",
  "sv",
  "fi",
  "ga",
  "el",
  "hu",
  "ro",
  "uk",
  "tr",
];

/** What a language is called. */
export const languageName = (language: string) =>
  new Intl.DisplayNames(locale(), { type: "language" }).of(language) ?? language;
