// A machine's page in the browser: controls moved, a wire followed, the drawings changed, without leaving the page.
import assert from "node:assert/strict";
import { test } from "node:test";
import { pageOf } from "./harness.mjs";
import { app, browser, serveShared } from "./served.mjs";

serveShared();

const does = (page) => page.locator(".does").innerText();

test("moving the controls redraws in place, and the keyboard keeps its place", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/machines/orchard-tractor-4`);
  await page.evaluate(() => (window.stays = true));
  await page.selectOption("select[name='c.brake']", "down");
  await page.focus("select[name='c.key']");
  await page.selectOption("select[name='c.key']", "START");
  await page.locator(".does", { hasText: "cranks" }).waitFor();
  assert.equal(await page.evaluate(() => window.stays), true);
  assert.equal(await page.evaluate(() => document.activeElement.name), "c.key");
  assert.match(page.url(), /c\.key=START/);
  await page.reload();
  assert.match(await does(page), /cranks/);
  assert.deepEqual(page.complaints, []);
});

test("a wire touched on the loom shows both its ends and its way", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/machines/orchard-zero-turn-7`);
  await page.locator("a[aria-label^='12 violet/white, wire']").first().click();
  await page.locator(".picked", { hasText: "Wire 12" }).waitFor();
  assert.equal(await page.locator(".picked p").count(), 3);
  assert.equal(await page.locator(".loom .way .core").count(), await page.locator(".looms > .loom").count());
  assert.equal(await page.locator(".loom .hit.chosen").count(), 2);
});

test("without scripts the same page works by its button", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 }, { javaScriptEnabled: false });
  await page.goto(`${app.url}/machines/hedgerow-mower-2`);
  await page.selectOption("select[name='c.lever']", "held");
  await page.selectOption("select[name='rpm']", { index: 3 });
  await page.click("button:text-is('Move')");
  assert.match(await does(page), /● sparks/);
});

test("no label of a drawing runs into another or off its edge, on five machines", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  for (const machine of ["orchard-zero-turn-7", "sound-cruiser-2", "harbour-launch-1", "ridge-carrier-4", "ridge-twin-1"]) {
    for (const view of ["loom", "switches", "line"]) {
      await page.goto(`${app.url}/machines/${machine}?view=${view}&c.key=START&c.p-key=START`);
      const clashes = await page.$$eval(".loom text, .chart text, .line text", (labels) => {
        const boxes = labels.filter((l) => l.textContent.trim() !== "").map((l) => [l.textContent.trim(), l.getBoundingClientRect(), l.ownerSVGElement.getBoundingClientRect()]);
        const found = [];
        boxes.forEach(([text, a, edge], i) => {
          if (a.left < edge.left - 1 || a.right > edge.right + 1 || a.top < edge.top - 1 || a.bottom > edge.bottom + 1) found.push(`${text} off the edge`);
          boxes.slice(i + 1).forEach(([other, b]) => {
            const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left);
            const tall = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
            if (wide > 1 && tall > 4) found.push(`${text} × ${other}`);
          });
        });
        return found;
      });
      assert.deepEqual(clashes.slice(0, 8), [], `${machine} ${view}`);
    }
  }
});
