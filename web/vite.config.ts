import tailwind from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

const GROUND = "#f7f2e8";
const PINE = "#1f4d3a";

export default defineConfig({
  plugins: [
    react(),
    tailwind(),
    VitePWA({
      // A new version waits until nobody is in the pen; see src/alone/start.ts.
      registerType: "prompt",
      injectRegister: false,
      manifest: {
        id: "/",
        name: "Still Pine",
        short_name: "Still Pine",
        description: "Plans and logs each young horse's way to the saddle.",
        start_url: "/",
        scope: "/",
        display: "standalone",
        background_color: GROUND,
        theme_color: PINE,
        icons: [
          { src: "/icon-192.png", sizes: "192x192", type: "image/png" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png" },
          { src: "/icon-maskable-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
          { src: "/icon.svg", sizes: "any", type: "image/svg+xml" },
        ],
      },
      workbox: {
        // Everything the pages are made of; what the yard recorded is kept by the pages themselves.
        globPatterns: ["**/*.{js,css,html,svg,png,woff2,webmanifest}"],
        maximumFileSizeToCacheInBytes: 4 * 1024 * 1024,
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//],
        cleanupOutdatedCaches: true,
        sourcemap: false,
      },
    }),
  ],
  build: {
    outDir: "dist",
    emptyOutDir: true,
    target: "es2022",
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: {
        // What keeps and presses is small, and every page that records needs all of it: one file instead of several.
        codeSplitting: {
          groups: [{ name: "keeping", test: /web\/src\/outbox\/(running|stamp|device)|core\/src\/recording/ }],
        },
      },
    },
  },
});
