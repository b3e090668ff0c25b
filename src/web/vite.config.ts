import { transformAsync, types, type NodePath, type PluginItem } from "@babel/core";
import macros from "@lingui/babel-plugin-lingui-macro";
import { formatter } from "@lingui/format-po";
import { compileMessage } from "@lingui/message-utils/compileMessage";
import react from "@vitejs/plugin-react";
import compiler from "babel-plugin-react-compiler";
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { brotliCompressSync, constants } from "node:zlib";
import { defineConfig, type Plugin } from "vite";

const page = (name: string) => fileURLToPath(new URL(name, import.meta.url));

/**
 * The booking page is drawn without waiting for a file of styles: the few there are, which name the fonts, stand in the page, and the
 * font of its headings is asked for with it. Its program up to the choice of a time is asked for with the page too, but behind what
 * the page says; what comes after that is fetched while somebody looks at the times.
 */
const pageFirst: Plugin = {
  name: "page-first",
  transformIndexHtml: {
    order: "post",
    handler: (html, { bundle, filename }) => {
      if (!filename.endsWith("book.html") || !bundle) return html;
      const written = html
        .replaceAll(/<link rel="stylesheet"[^>]* href="\/([^"]+\.css)">/g, (link, file: string) => {
          const styles = bundle[file];
          return styles?.type === "asset" ? `<style>${String(styles.source).trim()}</style>` : link;
        })
        .replaceAll(/<(script type="module"|link rel="modulepreload")/g, '$& fetchpriority="low"');
      const fonts = Object.keys(bundle)
        .filter((file) => /bricolage-grotesque-latin-wght-normal-.*\.woff2$/.test(file))
        .map((file) => ({
          tag: "link",
          attrs: { rel: "preload", as: "font", type: "font/woff2", href: `/${file}`, crossorigin: true },
          injectTo: "head" as const,
        }));
      return { html: written, tags: fonts };
    },
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

/** Messages are taken apart while building: no screen has to read their grammar. */
const takenApart: PluginItem = {
  visitor: {
    ObjectProperty(path: NodePath<types.ObjectProperty>) {
      const { node, parent } = path;
      if (!types.isObjectExpression(parent) || !parent.properties.some((one) => isNamed(one, "id"))) return;
      if (isNamed(node, "message") && types.isStringLiteral(node.value))
        node.value = types.valueToNode(compileMessage(node.value.value));
      // What fills a gap in the numbers of the elements would take the place of one of them.
      const isComponents = isNamed(node, "components") && types.isObjectExpression(node.value);
      if (isComponents && node.value.properties.some((one) => Number(one.key.value) >= node.value.properties.length))
        throw path.buildCodeFrameError("A choice between elements stands in a sentence as a whole: whole(a ? b : c).");
    },
  },
};
const isNamed = (property: types.Node, name: string) =>
  types.isObjectProperty(property) && types.isIdentifier(property.key, { name });

/** The sentences of the screens become messages that a file of another language can answer; the English stays in the code. */
const words: Plugin = {
  name: "words",
  enforce: "pre",
  async transform(code, id) {
    const [filename = id] = id.split("?");
    if (!/\.tsx?$/.test(filename) || !/@lingui\/(core|react)\/macro/.test(code)) return null;
    const result = await transformAsync(code, {
      filename,
      babelrc: false,
      configFile: false,
      sourceMaps: true,
      parserOpts: { plugins: filename.endsWith("x") ? ["typescript", "jsx"] : ["typescript"] },
      plugins: [[macros, { stripMessageField: false }], takenApart],
    });
    return { code: result?.code ?? code, map: result?.map ?? null };
  },
};

/**
 * What the lanes of the book draw is kept as long as what it depends on stays the same: a press draws what it changes. Other screens
 * do without.
 */
const kept: Plugin = {
  name: "kept",
  enforce: "pre",
  apply: "build",
  async transform(code, id) {
    const [filename = id] = id.split("?");
    if (!/\/src\/features\/booking\/((carry|view)\/)?[^/]+\.tsx?$/.test(filename)) return null;
    const result = await transformAsync(code, {
      filename,
      babelrc: false,
      configFile: false,
      sourceMaps: true,
      parserOpts: { plugins: filename.endsWith("x") ? ["typescript", "jsx"] : ["typescript"] },
      plugins: [[compiler, { target: "19" }]],
    });
    return { code: result?.code ?? code, map: result?.map ?? null };
  },
};

/**
 * Each other language, `words/LANGUAGE.po`: what the screens say as the file that the server names in the pages of a business that
 * speaks it, and what the server says as a file that it reads itself, with the plural form of every number.
 */
const languages: Plugin = {
  name: "languages",
  apply: "build",
  async generateBundle() {
    for (const file of readdirSync("words").filter((name) => name.endsWith(".po") && name !== "en.po")) {
      const context = { locale: file.slice(0, -3), sourceLocale: "en", filename: file };
      const catalog = await formatter().parse(readFileSync(join("words", file), "utf8"), context);
      const said = (of: "screens" | "server") =>
        Object.fromEntries(
          Object.entries(catalog).flatMap(([id, { message, translation, origin = [] }]) =>
            translation && origin.some(([from]) => from.endsWith(".cs") === (of === "server"))
              ? [[of === "server" ? (message ?? id) : id, compileMessage(translation)]]
              : [],
          ),
        );
      const rules = new Intl.PluralRules(context.locale);
      const forms = Array.from({ length: 200 }, (_, number) => rules.select(number));
      const source = `globalThis.kingcupWords=${JSON.stringify(said("screens"))};`;
      this.emitFile({ type: "asset", fileName: `words/${context.locale}.js`, source });
      this.emitFile({
        type: "asset",
        fileName: `words/${context.locale}.json`,
        source: JSON.stringify({ forms, messages: said("server") }),
      });
    }
  },
};

/** Beside every script and style its form for the wire, packed once as small as it goes; the server sends it to whoever takes it. */
const packed: Plugin = {
  name: "packed",
  apply: "build",
  writeBundle({ dir = "dist" }, bundle) {
    for (const file of Object.keys(bundle).filter((name) => /\.(js|css)$/.test(name))) {
      const whole = readFileSync(join(dir, file));
      const params = { [constants.BROTLI_PARAM_SIZE_HINT]: whole.length };
      writeFileSync(join(dir, `${file}.br`), brotliCompressSync(whole, { params }));
    }
  },
};

export default defineConfig({
  plugins: [words, kept, react(), pageFirst, licences, languages, packed],
  build: {
    rollupOptions: { input: { desk: page("index.html"), book: page("book.html") } },
    chunkSizeWarningLimit: 1500,
  },
  server: { proxy: { "/api": "http://127.0.0.1:5080", "/live": { target: "http://127.0.0.1:5080", ws: true } } },
});
