import { defineConfig } from "@lingui/cli";
import babel from "@lingui/cli/api/extractors/babel";
import { formatter } from "@lingui/format-po";
import { serverWords } from "./words/server.mjs";

export default defineConfig({
  sourceLocale: "en",
  locales: ["en"],
  catalogs: [
    {
      path: "words/{locale}",
      include: ["src", "words/server.json"],
      exclude: ["**/*.test.*", "**/generated/**"],
    },
  ],
  extractors: [babel, serverWords],
  format: formatter({ lineNumbers: false }),
  runtimeConfigModule: { i18n: ["#words", "i18n"] },
});
