import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/** What the server answers and no page does: its API, and what stands behind mailed links. */
const OF_THE_SERVER = "^/(api|in|leave|yes|mine|held|f)/";

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react(), tailwindcss()],
  build: { outDir: "dist", emptyOutDir: true, chunkSizeWarningLimit: 1500 },
  worker: { format: "es" },
  // For developers (npm run dev): where the server is. It compares a request's Origin with its Host, so the Host is kept.
  server: {
    proxy: {
      [OF_THE_SERVER]: {
        target: process.env.AMIGO_SERVER ?? "http://localhost:8080",
        changeOrigin: false,
      },
    },
  },
});
