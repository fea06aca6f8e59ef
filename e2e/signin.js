import { chromium } from "@playwright/test";

// Signs in once at each school as the head of food of the demonstration; every
// test begins with that session unless it says otherwise.
export default async function signIn(config) {
  const browser = await chromium.launch(config.projects[0].use.launchOptions);
  const schools = new Map(config.projects.map(({ use }) => [use.storageState, use.baseURL]));
  for (const [path, baseURL] of schools) {
    const page = await browser.newPage({ baseURL });
    await page.goto("/signin");
    await page.getByRole("button", { name: "Maren Holt" }).click();
    await page.waitForURL(baseURL + "/");
    await page.context().storageState({ path });
  }
  await browser.close();
}
