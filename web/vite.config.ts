import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { compressAssets } from "./build/compressAssets";
import { sizeBudgets } from "./build/sizeBudgets";

/** What the server answers and no page does: its API, and what stands behind mailed links. */
const OF_THE_SERVER = "^/(api|in|leave|yes|mine|held|f)/";

export default defineConfig({
  root: import.meta.dirname,
  plugins: [
    react(),
    tailwindcss(),
    sizeBudgets("/web/app/House.tsx", { shell: 130_000, place: 61_000 }),
    compressAssets(),
  ],
  build: {
    outDir: "dist",
    emptyOutDir: true,
    chunkSizeWarningLimit: 1500,
    rolldownOptions: {
      output: {
        // React is the largest part of what comes first and changes seldom: browsers keep it over many versions of Amigo.
        codeSplitting: {
          groups: [
            { name: "react", test: /node_modules\/(react|react-dom|scheduler)\// },
            // What core says, in all its words: fetched beside the first page that needs them.
            { name: "words", test: /language\/(en\/core|english\/core)/ },
          ],
        },
      },
    },
  },
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
