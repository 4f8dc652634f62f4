import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  base: "/static/",
  plugins: [react()],
  css: { preprocessorOptions: { scss: { quietDeps: true } } },
  build: { chunkSizeWarningLimit: 700 },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
});
