import { i18n } from "@lingui/core";

/**
 * The words of the screens. English stands in the code; another language is a file `words/LANGUAGE.po`, which the build turns into
 * `/words/LANGUAGE.js`. The server names that file in the page of a business that speaks the language, so that the words are there
 * before the first of them is asked for.
 */
declare global {
  var kingcupWords: Record<string, never> | undefined;
}

i18n.loadAndActivate({
  locale: globalThis.document?.documentElement.lang || "en",
  messages: globalThis.kingcupWords ?? {},
});

export { i18n };
