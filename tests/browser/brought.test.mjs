// Readings that no test asks for: brought along, typed on a form of their own, and weighed.
import assert from "node:assert/strict";
import { test } from "node:test";
import { pageOf } from "./harness.mjs";
import { app, browser, serveShared } from "./served.mjs";

serveShared();

test("a mechanic who brings readings before the first question is heard", async () => {
  const { tag } = await app.api("/jobs", { machine: "orchard-tractor-4", duty: "cranks" });
  await app.api(`/jobs/${tag}/complaint`, { heard: "nothing", failed: 3, tried: 3 });
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/jobs/${tag}`);
  await page.click("text=enter any reading");

  // By hand: with the key at LIGHTS a lamp's feed is live from battery to key, so the fuse and its wires are whole.
  await page.fill("input[name=Red]", "ghost.1");
  await page.fill("input[name=Typed]", "12.5");
  await page.click("text=Weigh it");
  assert.match(await page.locator("[role=alert]").innerText(), /“ghost\.1” is no point/);
  assert.equal(await page.inputValue("input[name=Typed]"), "12.5");
  await page.fill("input[name=Red]", "lamp-left.+");
  await page.selectOption("select[name='Stood[key]']", "LIGHTS");
  await page.selectOption("select[name='Stood[brake]']", "up");
  await page.click("text=Weigh it");
  await page.waitForURL(`${app.url}/jobs/${tag}`);
  const readings = await page.locator(".readings").innerText();
  assert.match(readings, /12\.5 V/);
  assert.doesNotMatch(readings, /not weighed/);
  assert.doesNotMatch(await page.locator(".suspect-list").innerText(), /fuse: blown/i);
  assert.deepEqual(page.complaints, []);

  const ohms = await app.api(`/jobs/${tag}/readings`, { quantity: "ohms", setting: { key: "RUN" }, red: "key.B", black: "key.A", reading: "0.3" });
  assert.ok(ohms.sequence > 2);
});
