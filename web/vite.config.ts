import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  base: "/static/",
  plugins: [
    react(),
    VitePWA({
      strategies: "injectManifest",
      srcDir: "src/offline",
      filename: "worker.ts",
      injectRegister: false,
      manifest: false, // public/app.webmanifest, as it is
      injectManifest: { globPatterns: ["index.html", "assets/*.{js,css,woff2}", "*.{svg,png}"], modifyURLPrefix: { "": "/static/" } },
    }),
  ],
  css: { preprocessorOptions: { scss: { quietDeps: true } } },
  build: { chunkSizeWarningLimit: 700 },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
});
