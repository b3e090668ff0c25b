import react from "@vitejs/plugin-react";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { defineConfig, type Plugin } from "vite";

const page = (name: string) => fileURLToPath(new URL(name, import.meta.url));

/** The two fonts that the first picture of the booking page is written in are asked for with the page, not after its styles. */
const fontsFirst: Plugin = {
  name: "fonts-first",
  transformIndexHtml: {
    order: "post",
    handler: (_, { bundle, filename }) =>
      filename.endsWith("book.html")
        ? Object.keys(bundle ?? {})
            .filter((file) => /(bricolage-grotesque|next)-latin-wght-normal-.*\.woff2$/.test(file))
            .map((file) => ({
              tag: "link",
              attrs: { rel: "preload", as: "font", type: "font/woff2", href: `/${file}`, crossorigin: true },
              injectTo: "head",
            }))
        : [],
  },
};

/** What ships with the screens, gathered from the modules that were really built in: name, version, licence and its text. */
const licences: Plugin = {
  name: "licences",
  apply: "build",
  generateBundle() {
    const found = new Map<string, object>();
    for (const id of this.getModuleIds()) {
      const [, folder, name] = /^(.*\/node_modules\/((?:@[^/]+\/)?[^/]+))\//.exec(id.replace(/^\0/, "")) ?? [];
      if (!folder || !name || found.has(name) || !existsSync(join(folder, "package.json"))) continue;
      const about = JSON.parse(readFileSync(join(folder, "package.json"), "utf8")) as Record<string, unknown>;
      const file = readdirSync(folder).find((entry) => /^(licen[sc]e|copying)(\.|$)/i.test(entry));
      const text = file ? readFileSync(join(folder, file), "utf8") : "";
      found.set(name, { name, version: about["version"], licence: about["license"] ?? "", text });
    }
    const packages = [...found.values()].sort((a, b) => JSON.stringify(a).localeCompare(JSON.stringify(b), "en"));
    const { version } = JSON.parse(readFileSync("package.json", "utf8")) as { version: string };
    this.emitFile({ type: "asset", fileName: "licences.json", source: JSON.stringify({ version, packages }) });
  },
};

export default defineConfig({
  plugins: [react(), fontsFirst, licences],
  build: {
    rollupOptions: { input: { desk: page("index.html"), book: page("book.html") } },
    chunkSizeWarningLimit: 1500,
  },
  server: { proxy: { "/api": "http://127.0.0.1:5080", "/live": { target: "http://127.0.0.1:5080", ws: true } } },
});
