import { defineConfig } from "@playwright/test";

const elsewhere = ["recipes.spec.js", "plan.spec.js", "practise.spec.js"];

// The browser is Debian's. Its own connections are switched off, since it
// should reach nothing but the server under test.
export default defineConfig({
  testDir: "e2e",
  globalSetup: "./e2e/signin.js",
  workers: 2,
  // Looking changes nothing and may be done by two at once. What follows changes
  // a school, one test after another: about half of it another school, beside.
  projects: [
    { name: "look", testMatch: "look.spec.js", fullyParallel: true },
    { name: "use", testIgnore: ["look.spec.js", ...elsewhere], dependencies: ["look"], workers: 1 },
    {
      name: "use elsewhere",
      testMatch: elsewhere,
      dependencies: ["look"],
      workers: 1,
      use: {
        baseURL: process.env.FRESH_APRON_OTHER_URL,
        storageState: "test-results/head-elsewhere.json",
      },
    },
  ],
  timeout: 60_000,
  // What the server works out behind the pages may wait for whatever else the
  // machine does.
  expect: { timeout: 20_000 },
  forbidOnly: true,
  reporter: [["list"]],
  use: {
    baseURL: process.env.FRESH_APRON_URL,
    viewport: { width: 1280, height: 800 },
    storageState: "test-results/head.json",
    locale: "en-GB",
    timezoneId: "Europe/London",
    screenshot: "only-on-failure",
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium-headless-shell",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
