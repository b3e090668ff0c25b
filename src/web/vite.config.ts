import react from "@vitejs/plugin-react";
import { fileURLToPath } from "node:url";
import { defineConfig } from "vite";

const page = (name: string) => fileURLToPath(new URL(name, import.meta.url));

export default defineConfig({
  plugins: [react()],
  build: {
    rollupOptions: { input: { desk: page("index.html"), book: page("book.html") } },
    chunkSizeWarningLimit: 1500,
  },
  server: { proxy: { "/api": "http://127.0.0.1:5080", "/live": { target: "http://127.0.0.1:5080", ws: true } } },
});
