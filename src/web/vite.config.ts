import react from "@vitejs/plugin-react";
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

export default defineConfig({
  plugins: [react(), fontsFirst],
  build: {
    rollupOptions: { input: { desk: page("index.html"), book: page("book.html") } },
    chunkSizeWarningLimit: 1500,
  },
  server: { proxy: { "/api": "http://127.0.0.1:5080", "/live": { target: "http://127.0.0.1:5080", ws: true } } },
});
