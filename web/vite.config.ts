import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** Writes .br and .gz beside every text file that shrinks, so that the server only hands them out. */
function precompress(dir: string): Plugin {
  return {
    name: "precompress",
    apply: "build",
    closeBundle() {
      for (const f of readdirSync(dir, { recursive: true, withFileTypes: true })) {
        if (!f.isFile() || !/\.(js|css|html|svg|json)$/.test(f.name)) continue;
        const path = join(f.parentPath, f.name);
        const body = readFileSync(path);
        const br = brotliCompressSync(body, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } });
        const gz = gzipSync(body, { level: 9 });
        if (br.length < body.length) writeFileSync(path + ".br", br);
        if (gz.length < body.length) writeFileSync(path + ".gz", gz);
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwindcss(), precompress("dist")],
  build: { target: "es2022", assetsInlineLimit: 0, modulePreload: { polyfill: false }, chunkSizeWarningLimit: 900 },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
