import { defineConfig } from "@lingui/cli";
import { formatter } from "@lingui/format-po";

export default defineConfig({
  sourceLocale: "en",
  locales: ["en"],
  catalogs: [{ path: "words/{locale}", include: ["src"], exclude: ["**/*.test.*", "**/generated/**"] }],
  format: formatter({ lineNumbers: false }),
  runtimeConfigModule: { i18n: ["#words", "i18n"] },
});
