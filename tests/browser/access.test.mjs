// No serious accessibility fault on any page, wide and narrow, light and dark.
import assert from "node:assert/strict";
import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { test } from "node:test";
import { pageOf } from "./harness.mjs";
import { app, browser, serve } from "./served.mjs";

const axe = await readFile(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");
serve();

/** Waits for what is still being worked out: a page that takes itself up again each second would break off whatever is opened after it. */
const stands = async (path) => {
  while ((await fetch(app.url + path)).headers.has("refresh")) await new Promise((done) => setTimeout(done, 500));
};

const looks = [
  ["wide, light", { width: 1280, height: 800 }, {}],
  ["narrow, dark", { width: 390, height: 844 }, { colorScheme: "dark", hasTouch: true, isMobile: true }],
];

/** Pages by what they are for, each with what has to be there first: addresses, once that is made. */
const areas = {
  pages: async (page) => {
    const { tag: kill } = await app.api("/jobs", { machine: "hedgerow-mower-2", duty: "sparks-magneto" });
    await app.api(`/jobs/${kill}/complaint`, { heard: "nothing", failed: 3, tried: 3 });
    await page.goto(`${app.url}/machines/make?from=orchard-tractor-4`);
    await Promise.all([page.waitForURL(/drafts/), page.click("button:text-is('Change this machine')")]);
    return ["/", "/record", "/jobs/T-0001", "/jobs/T-0001/complaint", "/jobs/T-0001/sheet", "/jobs/T-0002", "/machines", "/machines/harbour-launch-1", "/machines/harbour-launch-1?view=switches", "/machines/orchard-tractor-4?view=line&c.key=START&c.brake=down", "/machines/orchard-tractor-4/normal", "/machines/orchard-tractor-4/pictures", "/machines/make", "/machines/drafts/1?on=wire&item=C2", "/machines/drafts/1?on=part&item=key&view=lists", `/jobs/${kill}`, "/meter", "/nowhere"];
  },
  "pages of rewires and readings": async () => {
    const { tag: loom } = await app.api("/looms", { name: "loom", plugs: "P1: red, black\nP2: red, ?", switches: "key behind P1: OFF, RUN" });
    return ["/jobs/T-0001/reading", "/rewires", "/rewires/R-0001/sides", "/rewires/R-0001/marry", "/rewires/R-0001/size", "/rewires/R-0001/prove", "/rewires/R-0001/build", `/rewires/looms/${loom}`];
  },
  "pages of part tests": async () => {
    const { tag: survey } = await app.api("/part-tests", { machine: "orchard-tractor-4", sheet: "grounds" });
    const { tag: part } = await app.api("/part-tests", { machine: "ridge-carrier-4", part: "stator" });
    const { tag: points } = await app.api("/points", { name: "drops of the starter cable" });
    await app.api(`/points/${points}/points`, { words: "battery + to stud, cranking", reads: "volts", wanted: "at most 0.2" });
    await app.api(`/part-tests/${part}/readings`, { reading: "ohms-a-b", figure: "0.6" });
    return ["/part-tests?machine=hill-quad-5", "/part-tests/new?kind=stator-3", `/part-tests/${part}`, `/part-tests/${survey}/grounds`, `/part-tests/${points}/points`];
  },
};

for (const [name, viewport, extra] of looks) {
  for (const [area, made] of Object.entries(areas)) {
    test(`${area} are accessible and nothing runs off the side: ${name}`, async () => {
      const page = await pageOf(browser, app, viewport, { ...extra, bypassCSP: true });
      for (const path of await made(page)) {
        if (path.endsWith("/prove")) await stands(path);
        await page.goto(app.url + path);
        await page.evaluate(axe);
        const { violations } = await page.evaluate(() => window.axe.run(document, { resultTypes: ["violations"] }));
        const serious = violations.filter((v) => ["serious", "critical"].includes(v.impact)).map((v) => `${path}: ${v.id} ${v.nodes.map((n) => n.target.join(" ")).slice(0, 3)}`);
        assert.deepEqual(serious, []);
        const over = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
        assert.ok(over <= 0, `${path} is ${over} px too wide`);
      }
    });
  }
}

test("labels on the line do not run into each other", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  for (const line of ["solenoid", "starter"]) {
    await page.goto(`${app.url}/jobs/T-0001?line=${line}`);
    const clashes = await page.$$eval(".line .part-name, .line .post-name", (labels) => {
      const boxes = labels.map((l) => ({ text: l.textContent, ...l.getBoundingClientRect().toJSON() })).filter((b) => b.text.trim());
      const overlap = (a, b) => Math.min(a.right, b.right) - Math.max(a.left, b.left) > 1 && Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 3;
      return boxes.flatMap((a, i) => boxes.slice(i + 1).filter((b) => overlap(a, b)).map((b) => `${a.text} / ${b.text}`));
    });
    assert.deepEqual(clashes, []);
  }
});
