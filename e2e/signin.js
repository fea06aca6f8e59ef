import { chromium } from "@playwright/test";

// Signs in once as the head of food of the demonstration; every test begins
// with that session unless it says otherwise.
export default async function signIn(config) {
  const { baseURL, launchOptions, storageState } = config.projects[0].use;
  const browser = await chromium.launch(launchOptions);
  const page = await browser.newPage({ baseURL });
  await page.goto("/signin");
  await page.getByRole("button", { name: "Maren Holt" }).click();
  await page.waitForURL(baseURL + "/");
  await page.context().storageState({ path: storageState });
  await browser.close();
}
