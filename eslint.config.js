import js from "@eslint/js";
import globals from "globals";

export default [
  { ignores: ["internal/web/ui/dist/", "data/", "bin/", "test-results/"] },
  js.configs.recommended,
  {
    files: ["internal/web/ui/**/*.js"],
    languageOptions: { globals: globals.browser },
  },
  {
    files: ["internal/web/live/worker.js"],
    languageOptions: { globals: globals.serviceworker },
  },
  {
    files: ["*.js", "e2e/**/*.js", "scripts/**/*.mjs"],
    languageOptions: { globals: { ...globals.node, document: "readonly" } },
  },
];
