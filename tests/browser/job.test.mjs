// One whole job in the browser: start, complaint, readings, verdict, repair, proof, printed sheet.
import assert from "node:assert/strict";
import { test } from "node:test";
import { answer, pageOf } from "./harness.mjs";
import { app, browser, serveShared } from "./served.mjs";

// Needs several readings to find, since nothing is said about lamps.
const fault = "7/open";
serveShared();

/** Focuses an element by Tab alone. */
async function reach(page, selector) {
  const wanted = page.locator(selector).first();
  await wanted.waitFor();
  for (let presses = 0; presses < 120; presses++) {
    if (await wanted.evaluate((e) => e === document.activeElement)) return;
    await page.keyboard.press("Tab");
  }
  assert.fail(`no way by keyboard to ${selector}`);
}

/** How a job is driven: with the pointer, or with keys only. */
const pointer = {
  press: (page, selector) => page.locator(selector).first().click(),
  check: (page, selector) => page.locator(selector).first().check(),
  type: (page, selector, text) => page.locator(selector).first().fill(text),
  enter: async (page, text) => {
    await page.fill("#typed", text);
    await page.press("#typed", "Enter");
  },
};
const keys = {
  press: async (page, selector) => {
    await reach(page, selector);
    await page.keyboard.press("Enter");
  },
  check: async (page, selector) => {
    // Tab lands on the first radio of the group; Space takes it.
    await reach(page, selector);
    await page.keyboard.press("Space");
  },
  type: async (page, selector, text) => {
    await reach(page, selector);
    await page.keyboard.press("Control+A");
    await page.keyboard.type(text);
  },
  enter: async (page, text) => {
    // The field has the focus already: number, Enter, next.
    assert.equal(await page.evaluate(() => document.activeElement?.id), "typed");
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
  },
};
const thumb = {
  ...pointer,
  enter: async (page, text) => {
    for (const key of text === "OL" ? ["OL"] : text.replace("-", "")) await page.locator(`.pad [data-key="${key}"]`).tap();
    if (text.startsWith("-")) await page.locator('.pad [data-key="±"]').tap();
    await page.locator(".pad .go").tap();
  },
};

async function wholeJob(page, hands) {
  await page.goto(app.url);
  const tractor = "details.machine:has(input[value=orchard-tractor-4])";
  const opened = await page.locator(tractor).getAttribute("open");
  if (opened === null) await hands.press(page, `${tractor} summary`);
  await hands.press(page, `${tractor} button[name=duty][value=cranks]`);
  await page.waitForURL(/\/complaint$/);

  await hands.check(page, "input[name=HeardSaid][value=Nothing]");
  await hands.type(page, "input[name=Failed]", "3");
  await hands.type(page, "input[name=Tried]", "3");
  await hands.type(page, "input[name=Words]", "Dead since the rain");
  await hands.press(page, ".complaint button[type=submit]");
  await page.waitForURL(/\/jobs\/T-\d+$/);

  let readings = 0;
  while (!(await page.locator("text=Take this verdict").count())) {
    assert.ok(readings < 12, "no verdict after 12 readings");
    const shown = await answer(app, page, fault);
    const asked = await page.locator("#test-title").innerText();
    if (asked.startsWith("Volts")) {
      // The drawing stands as the controls are to stand.
      const drawn = await page.locator(".drawing-head .setting").innerText();
      assert.ok((await page.locator(".card", { has: page.locator("#test-title") }).innerText()).includes(`Controls ${drawn}`), `${asked}: drawn in ${drawn}`);
    }
    await hands.enter(page, shown);
    readings++;
    await page.waitForFunction((n) => document.querySelectorAll(".readings li").length === n, readings);
    assert.ok(asked.length > 0);
  }
  assert.ok(readings >= 2, `only ${readings} readings were asked`);
  assert.match(await page.locator(".verdict").first().innerText(), /grey/i);

  await hands.press(page, "button:has-text('Take this verdict')");
  await page.waitForURL(/\/repair$/);
  assert.match(await page.locator(".caution", { has: page.locator("strong") }).first().innerText(), /grounded post off first/);
  await hands.type(page, "input[name=Done]", "New wire laid beside the old one");
  await hands.type(page, "input[name=MinutesTaken]", "25");
  await hands.press(page, "button:has-text('Done, now prove it')");
  await page.waitForURL(/\/prove$/);

  await prove(page, hands);
  await hands.press(page, "button:has-text('Close, proved')");
  await page.waitForURL(/\/sheet$/);
  const sheet = await page.locator(".sheet").innerText();
  for (const part of ["Dead since the rain", "New wire laid beside the old one", "● passed", "◆ does not"]) assert.ok(sheet.includes(part), `the sheet lacks “${part}”`);
  assert.doesNotMatch(sheet, /not tried/);
  return page.url();
}

/** Answers every open check, one after another, until none is left. */
async function prove(page, hands) {
  for (let steps = 0; steps < 30; steps++) {
    const open = page.locator(".checks li:not(.passed)");
    if ((await open.count()) === 0) return;
    const before = await page.locator("input[name=After]").first().inputValue();
    if (await open.first().locator("input[name=Typed]").count()) {
      // The machine is mended: what the same two points show without the fault.
      const tag = new URL(page.url()).pathname.split("/")[2];
      const failed = (await app.api(`/jobs/${tag}`)).readings.filter((r) => r.agrees !== true).slice(-2);
      const title = await open.first().locator(".what strong").innerText();
      const all = await page.locator(".checks li:has(input[name=Typed]) .what strong").allInnerTexts();
      const { setting, red, black, quantity, off } = failed[all.indexOf(title)].at;
      const dead = quantity === "ohms";
      const { value } = await app.api("/machines/orchard-tractor-4/measure", { setting, red, black, off: off ?? [], batteryDisconnected: dead, function: dead ? "ohms" : "dcVolts" });
      await hands.type(page, ".checks li:not(.passed) input[name=Typed]", value.toFixed(3));
      await page.keyboard.press("Enter");
    } else {
      await hands.press(page, ".checks li:not(.passed) button[name=passed][value=true]");
    }
    await page.waitForFunction((was) => document.querySelector("input[name=After]")?.value !== was, before);
  }
  assert.fail("the proof never came to an end");
}

test("a whole job with the pointer at 1280x800, and its printed sheet", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  const sheet = await wholeJob(page, pointer);
  await page.goto(sheet);
  await page.emulateMedia({ media: "print" });
  assert.equal(await page.locator(".top").isVisible(), false);
  assert.ok((await page.pdf({ format: "A4" })).length > 10_000);
  assert.deepEqual(page.complaints, []);
});

test("a whole job with keys only", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await wholeJob(page, keys);
  assert.deepEqual(page.complaints, []);
});

test("a whole job by thumb at 390x844, in the dark", async () => {
  const page = await pageOf(browser, app, { width: 390, height: 844 }, { hasTouch: true, isMobile: true, colorScheme: "dark" });
  await wholeJob(page, thumb);
  assert.deepEqual(page.complaints, []);
});
