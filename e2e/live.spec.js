import { expect, test, wellMade } from "./site.js";

// The class comes an hour early: the clock of the tests stands at nine. A lesson begins
// once; who comes later finds it running.
async function begin(page) {
  await page.goto("/lessons/1/teach");
  const here = page.getByRole("button", { name: "The class is in" });
  if (await here.isVisible()) await here.click();
  await expect(page.locator(".live-log")).not.toContainText("nothing yet");
}

const bench = async (page, name) => {
  await page.locator("summary", { hasText: "Screens at the benches" }).click();
  return page.locator("#screens li").filter({ hasText: name }).getByRole("link").getAttribute("href");
};

test("desk, wall, walk and two benches of one lesson", async ({ page, browser }) => {
  const wall = await page.context().newPage();
  await wall.goto("/lessons/1/wall");
  await expect(wall.locator("main")).toContainText("The lesson has not begun.");
  await begin(page);
  await expect(page.locator(".live-log")).toContainText("The class is in.");
  await expect(wall.locator(".wall-clock")).toBeVisible();
  const address = await bench(page, "Bench 5");
  const tablet = await browser.newContext({
    storageState: undefined,
    viewport: { width: 1024, height: 768 },
  });
  const screen = await tablet.newPage();
  await screen.goto(new URL(address, page.url()).href);
  await expect(screen.getByRole("heading", { level: 1, name: "Bench 5" })).toBeVisible();
  const phone = await page.context().newPage();
  await phone.setViewportSize({ width: 390, height: 844 });
  await phone.goto("/lessons/1/walk");
  await screen.getByRole("button", { name: "Help" }).click();
  await expect(phone.locator(".queue")).toContainText("Bench 5 help");
  await expect(page.locator(".queue")).toContainText("Bench 5 help");
  await phone.locator(".queue li", { hasText: "Bench 5" }).getByRole("button", { name: "Done" }).click();
  await expect(screen.getByRole("button", { name: "Help" })).toBeEnabled();
  await page.getByRole("button", { name: "Bench 3 is 6 minutes behind" }).click();
  await expect(page.locator(".live-benches li", { hasText: "Bench 3" })).toContainText("6 min behind");
  // A second teacher takes it back, at another window.
  await phone.goto("/lessons/1/teach");
  await phone.getByRole("button", { name: "Take back: Bench 3 is 6 min behind." }).click();
  await expect(page.locator(".live-log")).not.toContainText("Bench 3 is 6 min behind.");
  await wellMade(screen);
  await tablet.close();
});

test("a bench goes on without the network, and nothing that was pressed is lost", async ({
  page,
  browser,
}) => {
  await begin(page);
  const address = await bench(page, "Bench 2");
  const tablet = await browser.newContext({
    storageState: undefined,
    viewport: { width: 1024, height: 768 },
  });
  const screen = await tablet.newPage();
  await screen.goto(new URL(address, page.url()).href);
  await expect(screen.locator(".bench-step.current")).toHaveCount(1);
  const first = await screen.locator(".bench-step.current h2").textContent();
  await screen.waitForFunction(() => globalThis.navigator.serviceWorker.controller);
  const kept = () =>
    globalThis.caches
      .open("bench")
      .then(async (pages) => (await pages.keys()).map(({ url }) => new URL(url).pathname));
  await expect
    .poll(() => screen.evaluate(kept))
    .toEqual(expect.arrayContaining([address, expect.stringMatching(/\.js$/)]));
  const before = await screen.evaluate(async () =>
    (await (await globalThis.caches.open("bench")).match(globalThis.location.pathname)).text(),
  );
  await tablet.setOffline(true);
  // What the browser takes for offline is the page alone, and not its worker.
  const worker = tablet.serviceWorkers()[0] ?? (await tablet.waitForEvent("serviceworker"));
  await worker.evaluate(() => {
    globalThis.real = fetch;
    globalThis.fetch = () => Promise.reject(new TypeError("no network"));
  });
  await screen.locator(".bench-step.current button").click();
  await expect(screen.locator(".bench-step.current h2")).not.toHaveText(first);
  await screen.locator(".bench-step.current button").click();
  await expect(screen.locator("[data-waiting-presses]")).toHaveText("2 not sent yet");
  const third = await screen.locator(".bench-step.current h2").textContent();
  // The tablet dies before it has kept what it showed last.
  await screen.evaluate(async (page) => {
    const headers = { "Content-Type": "text/html; charset=utf-8" };
    await (
      await globalThis.caches.open("bench")
    ).put(globalThis.location.pathname, new Response(page, { headers }));
  }, before);
  await screen.reload();
  await expect(screen.locator(".bench-step.current h2")).toHaveText(third);
  await expect(screen.locator("[data-waiting-presses]")).toHaveText("2 not sent yet");
  await worker.evaluate(() => (globalThis.fetch = globalThis.real));
  await tablet.setOffline(false);
  await expect(screen.locator("[data-waiting-presses]")).toBeHidden();
  await expect(page.locator(".live-log")).toContainText(`Bench 2 has done “${first}”.`);
  const row = page.locator("#screens li").filter({ hasText: "Bench 2" });
  await row.getByRole("button", { name: "Put it out" }).click();
  await expect(row.locator("button", { hasText: "Let it in" })).toHaveCount(1);
  await screen.reload();
  await expect(screen.getByRole("heading", { name: "This screen is shut" })).toBeVisible();
  await wellMade(screen);
  await tablet.close();
});

test("a bench takes a picture, and its screen is shown as its teacher sets it", async ({ page, browser }) => {
  await begin(page);
  const address = await bench(page, "Bench 4");
  const tablet = await browser.newContext({
    storageState: undefined,
    viewport: { width: 1024, height: 768 },
  });
  const screen = await tablet.newPage();
  await screen.goto(new URL(address, page.url()).href);
  const drawn = await screen.screenshot();
  await screen
    .getByLabel(/A picture of/)
    .setInputFiles({ name: "a.png", mimeType: "image/png", buffer: drawn });
  await expect(screen.locator(".bench-pictures img")).toHaveJSProperty("naturalWidth", 1024);
  await screen
    .getByLabel(/A picture of/)
    .setInputFiles({ name: "a.png", mimeType: "image/png", buffer: Buffer.from("no") });
  await expect(screen.locator("#notice")).toContainText("no picture that can be read");
  await page.locator("summary", { hasText: "Pictures from the benches" }).click();
  await expect(page.locator(".bench-pictures img")).toHaveJSProperty("naturalWidth", 1024);
  const row = page.locator("#screens li").filter({ hasText: "Bench 4" });
  await row.getByLabel("large").check();
  await row.getByLabel("pictures first").check();
  await row.getByRole("button", { name: "Show the screen of Bench 4 so" }).click();
  await expect(screen.locator("body")).toHaveClass("bench-screen large pictures");
  await wellMade(screen);
  await tablet.close();
});

test("what is being written or pressed outlives what arrives", async ({ page }) => {
  await begin(page);
  const phone = await page.context().newPage();
  await phone.goto("/lessons/1/walk");
  await page.getByRole("button", { name: "Bench 6 is 6 minutes behind" }).hover();
  await page.mouse.down();
  const arrived = page.evaluate(
    () =>
      new Promise((heard) =>
        new globalThis.EventSource(document.querySelector("[data-live]").dataset.live).addEventListener(
          "state",
          ({ data }) => data.includes("3 min behind") && heard(),
        ),
      ),
  );
  await phone.getByRole("button", { name: "Bench 7 is 3 minutes behind" }).click();
  await arrived;
  await page.mouse.up();
  await expect(page.locator(".live-log")).toContainText("Bench 6 is 6 min behind.");
  await expect(page.locator(".live-log")).toContainText("Bench 7 is 3 min behind.");
  await page.locator("summary", { hasText: "A mishap" }).click();
  await page.getByLabel("What was done").fill("cooled");
  await page.getByRole("button", { name: "Bench 3 is 6 minutes behind" }).click();
  await expect(page.locator(".live-log")).toContainText("Bench 3 is 6 min behind.");
  await expect(page.getByLabel("What was done")).toHaveValue("cooled");
  await page.getByRole("button", { name: "Write it down" }).click();
  await expect(page.locator(".live-log")).toContainText("burn; cooled.");
  await page.getByLabel("An adult is out for").fill("ten");
  await page
    .locator("form", { hasText: "An adult is out for" })
    .getByRole("button", { name: "Say so" })
    .click();
  await expect(page.locator("#notice")).toHaveText("“ten” is no number.");
  await expect(page.getByLabel("An adult is out for")).toHaveValue("ten");
  await page.getByRole("link", { name: "Planned and real" }).first().click();
  await expect(page.locator(".after-bench")).toHaveCount(12);
});
