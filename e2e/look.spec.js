import { expect, looking as test, wellMade } from "./site.js";

// The views at the sizes they are made for. With PICTURES set to a folder the
// pictures of the README are taken on the way, save of those that are unseen. A
// page that comes again at another size says the same: only how it fits is new.
const views = [
  { name: "today", address: "/", width: 1280, height: 800 },
  { name: "new-lesson", address: "/lessons/new", width: 1280, height: 800, unseen: true },
  { name: "lesson", address: "/lessons/1", width: 1280, height: 800 },
  { name: "lesson-things", address: "/lessons/2?by=thing#timing", width: 1280, height: 800, unseen: true },
  {
    name: "lesson-bench",
    address: "/lessons/2/steps?by=g5&at=g5%2Fleek-tartlets%2Fbake#timing",
    width: 1280,
    height: 800,
    unseen: true,
  },
  {
    name: "lesson-try",
    address: "/lessons/2/try?changes[0].kind=preweigh&changes[1].kind=demo_before",
    width: 1280,
    height: 800,
    unseen: true,
  },
  { name: "lesson-files", address: "/files", width: 1280, height: 800, unseen: true },
  { name: "lesson-too-long", address: "/lessons/5", width: 1280, height: 800, unseen: true },
  { name: "lesson-projector", address: "/lessons/2", width: 1920, height: 1080, unseen: true, again: true },
  { name: "lesson-phone", address: "/lessons/2", width: 390, height: 844, unseen: true, again: true },
  { name: "print", address: "/lessons/1/print", width: 820, height: 1160, unseen: true },
  { name: "print-benches", address: "/lessons/2/print/benches", width: 820, height: 1160 },
  { name: "print-adults", address: "/lessons/3/print/adults", width: 820, height: 1160, unseen: true },
  { name: "print-ovens", address: "/lessons/2/print/ovens", width: 820, height: 1160, unseen: true },
  { name: "recipes", address: "/recipes", width: 1280, height: 800 },
  { name: "recipe", address: "/recipes/8", width: 1280, height: 800 },
  { name: "recipe-check", address: "/recipes/16#check", width: 1280, height: 800, unseen: true },
  { name: "recipe-amounts", address: "/recipes/6/amounts?pieces=5", width: 1280, height: 800, unseen: true },
  { name: "recipe-phone", address: "/recipes/8/amounts", width: 390, height: 844, unseen: true, again: true },
  { name: "card-short", address: "/recipes/8/card?form=short", width: 820, height: 1160, unseen: true },
  { name: "preparation", address: "/recipes/8/preparation", width: 820, height: 1160, unseen: true },
  { name: "pantry", address: "/pantry?q=flour", width: 1280, height: 800 },
  { name: "class", address: "/classes/1", width: 1280, height: 800 },
  { name: "lesson-food", address: "/lessons/2/food", width: 1280, height: 800 },
  { name: "lesson-safety", address: "/lessons/8/safety", width: 1280, height: 800 },
  { name: "lesson-floor", address: "/lessons/2/floor", width: 1280, height: 800 },
  { name: "room", address: "/rooms/1?out=1", width: 1280, height: 800, unseen: true },
  { name: "times", address: "/times", width: 1280, height: 800, unseen: true },
  { name: "who", address: "/lessons/1/who", width: 1280, height: 800, unseen: true },
  { name: "ways", address: "/lessons/2/ways", width: 1280, height: 800, unseen: true },
  { name: "probe", address: "/lessons/11/probe?thick=30&off=3", width: 1280, height: 800, unseen: true },
  { name: "safety-paper", address: "/lessons/8/print/safety", width: 820, height: 1160, unseen: true },
  { name: "who-phone", address: "/lessons/1/who", width: 390, height: 844, unseen: true, again: true },
  { name: "ways-phone", address: "/lessons/2/ways", width: 390, height: 844, unseen: true, again: true },
  { name: "room-phone", address: "/rooms/1", width: 390, height: 844, unseen: true, again: true },
  { name: "room-form", address: "/rooms/1/edit", width: 1280, height: 800, unseen: true },
  { name: "room-floor", address: "/rooms/1/floor", width: 1280, height: 800, unseen: true },
  { name: "classes", address: "/classes", width: 1280, height: 800, unseen: true },
  { name: "learner", address: "/classes/1/learners/4", width: 1280, height: 800, unseen: true },
  { name: "tables", address: "/tables", width: 1280, height: 800, unseen: true },
  { name: "people", address: "/people", width: 1280, height: 800, unseen: true },
  { name: "trail", address: "/people/trail", width: 1280, height: 800, unseen: true },
  { name: "week", address: "/prepare", width: 1280, height: 800 },
  { name: "order", address: "/prepare/order", width: 1280, height: 800 },
  { name: "day", address: "/prepare/day", width: 1280, height: 800, unseen: true },
  { name: "trays", address: "/lessons/1/trays", width: 1280, height: 800 },
  { name: "needs", address: "/prepare/needs", width: 1280, height: 800, unseen: true },
  { name: "delivery-phone", address: "/prepare/orders/1", width: 390, height: 844, unseen: true },
  { name: "store", address: "/prepare/store", width: 1280, height: 800, unseen: true },
  { name: "fetch-phone", address: "/prepare/fetch", width: 390, height: 844, unseen: true },
  { name: "week-phone", address: "/prepare", width: 390, height: 844, unseen: true, again: true },
  { name: "order-phone", address: "/prepare/order", width: 390, height: 844, unseen: true, again: true },
  { name: "day-phone", address: "/prepare/day", width: 390, height: 844, unseen: true, again: true },
  { name: "store-phone", address: "/prepare/store", width: 390, height: 844, unseen: true, again: true },
  { name: "trays-phone", address: "/lessons/1/trays", width: 390, height: 844, unseen: true, again: true },
  { name: "left", address: "/prepare/left", width: 1280, height: 800, unseen: true },
  { name: "garden", address: "/prepare/garden", width: 1280, height: 800, unseen: true },
  { name: "prices", address: "/prepare/prices", width: 1280, height: 800, unseen: true },
  { name: "supplier", address: "/prepare/suppliers/1", width: 1280, height: 800, unseen: true },
  { name: "places", address: "/prepare/places", width: 1280, height: 800, unseen: true },
  { name: "hours", address: "/prepare/hours", width: 1280, height: 800, unseen: true },
  { name: "money", address: "/prepare/money", width: 1280, height: 800, unseen: true },
  { name: "paying", address: "/prepare/money/1", width: 1280, height: 800, unseen: true },
  { name: "labels", address: "/lessons/1/labels", width: 1280, height: 800, unseen: true },
  { name: "label-sheet", address: "/lessons/1/print/labels", width: 820, height: 1160, unseen: true },
  { name: "trays-paper", address: "/lessons/1/print/trays", width: 820, height: 1160, unseen: true },
  { name: "fetch-paper", address: "/prepare/print/fetch", width: 820, height: 1160, unseen: true },
  { name: "order-paper", address: "/prepare/orders/1/print", width: 820, height: 1160, unseen: true },
  { name: "day-paper", address: "/prepare/print/day", width: 820, height: 1160, unseen: true },
  { name: "from-home", address: "/lessons/1/home", width: 1280, height: 800, unseen: true },
  { name: "letter", address: "/lessons/1/print/letter", width: 820, height: 1160, unseen: true },
  { name: "practice", address: "/classes/2/practice", width: 1280, height: 800 },
  { name: "even", address: "/even", width: 1280, height: 800, unseen: true },
  { name: "skills", address: "/classes/1/learners/3/skills", width: 1280, height: 800, unseen: true },
  { name: "practise-door", address: "/practise", width: 390, height: 844, unseen: true },
  { name: "desk", address: "/lessons/2/teach", width: 1280, height: 800 },
  { name: "wall", address: "/lessons/2/wall", width: 1920, height: 1080 },
  { name: "show", address: "/lessons/1/show?step=2", width: 1920, height: 1080, unseen: true },
  { name: "show-question", address: "/lessons/1/show?ask=1", width: 1280, height: 800, unseen: true },
  { name: "walk-phone", address: "/lessons/2/walk", width: 390, height: 844, unseen: true },
  { name: "desk-touch", address: "/lessons/2/teach", width: 1024, height: 768, unseen: true, again: true },
  { name: "after", address: "/lessons/2/after", width: 1280, height: 800, unseen: true },
  { name: "rescues-now", address: "/lessons/2/from-now", width: 1280, height: 800, unseen: true },
  { name: "begin", address: "/lessons/1/teach", width: 1280, height: 800, unseen: true },
  { name: "brief", address: "/judge/1", width: 1280, height: 800, unseen: true },
  { name: "choices", address: "/judge/1/choices", width: 1280, height: 800 },
  { name: "judge-walk", address: "/judge/1/walk", width: 1024, height: 768, unseen: true },
  { name: "judge-walk-phone", address: "/judge/1/walk", width: 390, height: 844, unseen: true, again: true },
  { name: "marks", address: "/judge/1/marks", width: 1280, height: 800, unseen: true },
  { name: "results", address: "/judge/1/results", width: 1280, height: 800, unseen: true },
  { name: "feedback", address: "/judge/1/feedback", width: 820, height: 1160, unseen: true },
  { name: "tasting", address: "/lessons/1/tasting", width: 1280, height: 800 },
  { name: "tasting-wall", address: "/lessons/1/tasting/wall", width: 1920, height: 1080, unseen: true },
  { name: "slips", address: "/lessons/1/tasting/paper", width: 820, height: 1160, unseen: true },
  { name: "review", address: "/lessons/1/review", width: 1280, height: 800, unseen: true },
  { name: "task-door", address: "/task", width: 390, height: 844, unseen: true },
  { name: "list-of-skills", address: "/skills", width: 1280, height: 800, unseen: true },
  { name: "me", address: "/me", width: 1280, height: 800, unseen: true },
];

for (const view of views) {
  test(`${view.name} at ${view.width} × ${view.height}`, async ({ page }) => {
    await page.setViewportSize(view);
    await page.goto(view.address);
    await page.evaluate(() => document.fonts.ready);
    if (!view.again) await wellMade(page);
    const overflow = await page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
    expect(overflow, "nothing pushes the page wider than the screen").toBeLessThanOrEqual(0);
    if (process.env.PICTURES && !view.unseen) {
      // What arrives while the page is looked at has arrived.
      await expect(page.locator("[hx-trigger=load]")).toHaveCount(0);
      await page.screenshot({ path: `${process.env.PICTURES}/${view.name}.png` });
    }
  });
}

test("writing a recipe at 1280 × 800", async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto("/recipes/16");
  await page.getByRole("button", { name: "Edit" }).click();
  await page.waitForURL("**/edits/*");
  await page.evaluate(() => document.fonts.ready);
  await wellMade(page);
  if (process.env.PICTURES) await page.screenshot({ path: `${process.env.PICTURES}/recipe-edit.png` });
  await page.getByRole("button", { name: "Throw this writing away" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Oat and apricot tray bake");
});

test("the print-out is one A4 page", async ({ page }) => {
  for (const lesson of [1, 2, 3, 4, 5, 6]) {
    await page.goto(`/lessons/${lesson}/print`);
    const pdf = await page.pdf({ preferCSSPageSize: true });
    const pages = pdf.toString("latin1").match(/\/Type\s*\/Page\b(?!s)/g);
    expect(pages, `lesson ${lesson}`).toHaveLength(1);
  }
});
