// A quarter of an hour's work: the shipped tractor made into the one in front of us, carried to another installation.
import assert from "node:assert/strict";
import { after, before, test } from "node:test";
import { readFile } from "node:fs/promises";
import { App, launch, pageOf } from "./harness.mjs";

let app;
let other;
let browser;

before(async () => {
  app = await App.start("--empty");
  other = await App.start("--empty");
  browser = await launch();
});
after(async () => {
  await browser?.close();
  await app?.stop();
  await other?.stop();
});

const starting = { key: "START", brake: "down", "clutch-pedal": "down" };
const solve = (where, machine, setting, red) => where.api(`/machines/${machine}/measure`, { setting, red, black: "battery.-" });

/** Fills the form of a wire found on the loom by its number and keeps it. */
async function change(page, wire, fields) {
  await page.locator(`.loom a[aria-label^='${wire} '][aria-label*='wire from']`).first().click();
  await page.locator(`h2:text-is('Wire ${wire}')`).waitFor();
  for (const [name, value] of Object.entries(fields)) {
    const field = page.locator(`.item [name=${name}]`);
    if ((await field.evaluate((f) => f.tagName)) === "SELECT") await field.selectOption(value);
    else await field.fill(value);
  }
  await Promise.all([page.waitForNavigation(), page.locator(".item [name=Length]").press("Enter")]);
  assert.equal(await page.locator(".error").count(), 0);
}

test("the shipped tractor becomes another: an interlock more, a coupling less, wires recoloured and regauged", async () => {
  // An old job, opened on the machine as it was.
  const job = await app.api("/jobs", { machine: "orchard-tractor-4", duty: "cranks" });
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/machines/orchard-tractor-4`);
  await page.click("text=Make it yours");
  await page.locator("form", { hasText: "Change this machine" }).locator("button").click();
  await page.waitForURL(/drafts/);

  for (const [wire, colour, tracer] of [["5", "blue", "white"], ["9", "brown", ""], ["22", "slate", ""], ["29", "yellow", "black"]]) {
    await change(page, wire, { Colour: colour, Tracer: tracer });
  }
  await change(page, "2", { Gauge: "4 mm2" });

  // The interlock, by keyboard alone once its form is open.
  await page.click(".news >> text=interlock into a wire");
  await page.locator(".item [name=Name]").focus();
  await page.keyboard.type("clutch switch");
  await page.keyboard.press("Tab");
  await page.keyboard.type("brake pedal bracket");
  await page.keyboard.press("Tab");
  await page.keyboard.type("8");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Tab");
  await page.keyboard.type("Clutch pedal");
  await page.keyboard.press("Tab");
  await page.keyboard.type("up, down");
  await page.keyboard.press("Tab");
  await page.keyboard.type("down");
  await Promise.all([page.waitForNavigation(), page.keyboard.press("Enter")]);
  assert.equal(await page.locator(".error").count(), 0);

  // A wrong one is refused, keeps what was typed, and changes nothing.
  await page.locator(".loom a[aria-label^='12 '][aria-label*='wire from']").first().click();
  await page.fill(".item [name=Gauge]", "as thick as it was");
  await Promise.all([page.waitForNavigation(), page.press(".item [name=Gauge]", "Enter")]);
  assert.match(await page.locator(".error").innerText(), /gauge: “as thick as it was” is not a gauge; allowed/);
  assert.equal(await page.inputValue(".item [name=Gauge]"), "as thick as it was");

  // The coupling above the oil filter is not on this one.
  await page.locator(".loom a[aria-label*='coupling P3 cavity 1']:not([aria-label*='wire'])").first().click();
  await Promise.all([page.waitForNavigation(), page.locator("text=Take out, join its wires").click()]);
  assert.match(await page.locator(".lacks").innerText(), /Nothing: it can be saved/);
  await Promise.all([page.waitForNavigation(), page.locator("button:text-is('Undo')").click()]);
  assert.equal(await page.locator(".loom .part-name", { hasText: "Coupling P3" }).count(), 1);
  await Promise.all([page.waitForNavigation(), page.locator("button:text-is('Redo')").click()]);
  assert.equal(await page.locator(".loom .part-name", { hasText: "Coupling P3" }).count(), 0);
  await page.locator("text=Save version 2").click();
  await page.waitForURL(/machines\/orchard-tractor-4$/);
  await page.locator("a", { hasText: "version 2" }).click();
  const told = await page.locator("main").innerText();
  for (const words of ["wire 5: colours", "wire 2: gauge", "clutch", "P3 taken out"]) assert.ok(told.includes(words), words);

  // Carried to an installation that has never seen it, where it solves the same.
  await page.goto(`${app.url}/machines/orchard-tractor-4`);
  const [download] = await Promise.all([page.waitForEvent("download"), page.click("text=machine file")]);
  const file = JSON.parse(await readFile(await download.path(), "utf8"));
  file.id = "lower-orchard-tractor";
  const there = await pageOf(browser, other, { width: 1280, height: 800 });
  await there.goto(`${other.url}/machines`);
  await there.setInputFiles("input[name=file]", { name: "tractor.json", mimeType: "application/json", buffer: Buffer.from(JSON.stringify(file)) });
  await there.click("text=Check it and bring it in");
  await there.locator("text=is here, version 1").waitFor();
  for (const setting of [starting, { ...starting, "clutch-pedal": "up" }, { key: "RUN" }]) {
    for (const red of ["solenoid.S", "starter.post", "fuel-cut.in", "key.B"]) {
      const [here, elsewhere] = [await solve(app, "orchard-tractor-4", setting, red), await solve(other, "lower-orchard-tractor", setting, red)];
      assert.equal(here.shown, elsewhere.shown, `${red} ${JSON.stringify(setting)}`);
    }
  }
  const [held, released] = [await solve(app, "orchard-tractor-4", starting, "starter.post"), await solve(app, "orchard-tractor-4", { ...starting, "clutch-pedal": "up" }, "starter.post")];
  assert.ok(held.value > 9 && released.value < 0.1, `${held.shown} ${released.shown}`);

  // The old job still stands on the version it was opened on: no clutch is asked for.
  const opened = await app.api(`/jobs/${job.tag}`);
  assert.ok(!JSON.stringify(opened.conditions ?? opened).includes("clutch"));
  await page.goto(`${app.url}/jobs/${job.tag}/complaint`);
  assert.match(await page.locator(".tag").innerText(), /Orchard tractor No. 4/);
  assert.deepEqual(page.complaints, []);
});

test("a picture is added from the page and found again at its part", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/machines/hill-quad-2`);
  const picture = await page.screenshot();
  await page.click("text=pictures (0)");
  await page.setInputFiles("input[name=file]", { name: "loom.png", mimeType: "image/png", buffer: picture });
  await page.fill("input[name=Words]", "battery tray, tab to the left");
  await page.selectOption("select[name=Part]", "battery");
  await page.click("button:text-is('Add')");
  await page.locator("figcaption", { hasText: "tab to the left" }).waitFor();
  // decode() waits for the picture's own request, which the caption does not, and refuses one that is broken.
  assert.ok(await page.locator(".pictures img").evaluate((i) => i.decode().then(() => i.naturalWidth > 100)));
  await page.goto(`${app.url}/machines/hill-quad-2?at=battery.%2B`);
  await page.locator(".picked .thumb").waitFor();
  assert.deepEqual(page.complaints, []);
});
