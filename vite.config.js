import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

export default defineConfig({
  base: "/assets/",
  publicDir: false,
  plugins: [tailwindcss()],
  build: {
    outDir: "internal/web/ui/dist/assets",
    emptyOutDir: true,
    assetsDir: "",
    assetsInlineLimit: 0,
    manifest: true,
    modulePreload: false,
    rollupOptions: { input: "internal/web/ui/app.js" },
  },
});
