// What was acknowledged stays: reload, back, a second tab, a killed process. What was refused is kept to be mended.
import assert from "node:assert/strict";
import { test } from "node:test";
import { pageOf } from "./harness.mjs";
import { app, browser, serve } from "./served.mjs";

const desk = { width: 1280, height: 800 };
serve("--empty");

async function openJob() {
  const { tag } = await app.api("/jobs", { machine: "orchard-tractor-4", duty: "cranks" });
  await app.api(`/jobs/${tag}/complaint`, { heard: "nothing", failed: 3, tried: 3 });
  return tag;
}

async function enter(page, typed) {
  await page.fill("#typed", typed);
  await Promise.all([page.waitForNavigation(), page.press("#typed", "Enter")]);
}

const readings = (page) => page.locator(".readings li").count();

test("reload and the back button neither lose a reading nor enter it twice", async () => {
  const page = await pageOf(browser, app, desk);
  const tag = await openJob();
  await page.goto(`${app.url}/jobs/${tag}`);
  await enter(page, "12.41");
  assert.equal(await readings(page), 1);
  await page.reload();
  assert.equal(await readings(page), 1);
  await page.goBack();
  await page.goForward();
  await page.reload();
  assert.equal(await readings(page), 1);
  assert.equal((await app.api(`/jobs/${tag}`)).sequence, 3);
  assert.deepEqual(page.complaints, []);
});

test("a complaint is worked on as it is told, and nothing is written before its button is pressed", async () => {
  const page = await pageOf(browser, app, desk);
  const { tag } = await app.api("/jobs", { machine: "orchard-tractor-4", duty: "cranks" });
  await page.goto(`${app.url}/jobs/${tag}/complaint`);
  const [ahead] = await Promise.all([page.waitForResponse(/handler=Ahead/), page.check("input[name=Bridged][value='seat/kill']")]);
  assert.equal(ahead.status(), 204);
  assert.equal((await app.api(`/jobs/${tag}`)).sequence, 1);
  await page.check("input[name=HeardSaid][value=Nothing]");
  await Promise.all([page.waitForURL(/jobs\/T-\d+$/), page.click(".complaint button[type=submit]")]);
  assert.deepEqual((await app.api(`/jobs/${tag}`)).openBypasses, ["seat/kill"]);
  assert.deepEqual(page.complaints, []);
});

test("of two tabs on one job the late one is told, and keeps what was typed", async () => {
  const [one, other] = [await pageOf(browser, app, desk), await pageOf(browser, app, desk)];
  const tag = await openJob();
  await one.goto(`${app.url}/jobs/${tag}`);
  await other.goto(`${app.url}/jobs/${tag}`);
  await enter(one, "12.41");
  await enter(other, "3.30");
  assert.match(await other.locator("[role=alert]").innerText(), /another tab/);
  assert.equal(await other.inputValue("#typed"), "3.30");
  assert.equal(await readings(other), 1);
  await enter(other, "3.30");
  assert.equal(await readings(other), 2);
});

test("a killed process loses nothing that was acknowledged", async () => {
  const page = await pageOf(browser, app, desk);
  const tag = await openJob();
  await page.goto(`${app.url}/jobs/${tag}`);
  await enter(page, "0.02");
  const [title, suspects] = [await page.locator("#test-title").innerText(), await page.locator(".suspect-list").innerText()];
  await app.kill();
  await app.restart();
  await page.goto(`${app.url}/jobs/${tag}`);
  assert.equal(await readings(page), 1);
  assert.equal(await page.locator("#test-title").innerText(), title);
  assert.equal(await page.locator(".suspect-list").innerText(), suspects);
});

test("a form open across a restart still posts", async () => {
  const page = await pageOf(browser, app, desk);
  const tag = await openJob();
  await page.goto(`${app.url}/jobs/${tag}`);
  await app.kill();
  await app.restart();
  await enter(page, "12.4");
  assert.equal(await readings(page), 1);
});

test("bad figures are refused in words, kept, and mended in place", async () => {
  const page = await pageOf(browser, app, desk);
  const tag = await openJob();
  await page.goto(`${app.url}/jobs/${tag}`);
  for (const typed of ["twelve", "1e999", "-", "12.6.1", '"><script>alert(1)</script>']) {
    await enter(page, typed);
    assert.match(await page.locator("[role=alert]").innerText(), /Type a number such as 12.6/);
    assert.equal(await page.inputValue("#typed"), typed);
  }
  await enter(page, "12,4");
  assert.equal(await readings(page), 1);
  assert.equal((await app.api(`/jobs/${tag}`)).readings[0].figure, 12.4);
  assert.deepEqual(page.complaints, []);
});

test("undo takes back, can't reach and jumps are asked round, all by keys", async () => {
  const page = await pageOf(browser, app, desk);
  const tag = await openJob();
  await page.goto(`${app.url}/jobs/${tag}`);
  const first = await page.locator("#test-title").innerText();
  await Promise.all([page.waitForNavigation(), page.keyboard.press("Alt+r")]);
  assert.notEqual(await page.locator("#test-title").innerText(), first);
  await Promise.all([page.waitForNavigation(), page.keyboard.press("Alt+u")]);
  assert.equal(await page.locator("#test-title").innerText(), first);
  await Promise.all([page.waitForNavigation(), page.keyboard.press("Alt+j")]);
  assert.match(await page.locator(".readings").innerText(), /jumps/);
  await page.keyboard.press("?");
  assert.ok(await page.locator("#keys").isVisible());
});

test("a typed figure shows on the staircase before it is entered", async () => {
  const page = await pageOf(browser, app, desk);
  const tag = await openJob();
  await page.goto(`${app.url}/jobs/${tag}?test=${encodeURIComponent("0;brake.in;battery.-")}`);
  await page.fill("#typed", "6");
  assert.equal(await page.getAttribute("#preview", "visibility"), "visible");
  const high = await page.getAttribute("#preview", "transform");
  await page.fill("#typed", "3");
  assert.notEqual(await page.getAttribute("#preview", "transform"), high);
  await page.fill("#typed", "x");
  assert.equal(await page.getAttribute("#preview", "visibility"), "hidden");
});

test("without scripts the forms still work", async () => {
  const page = await pageOf(browser, app, desk, { javaScriptEnabled: false });
  const tag = await openJob();
  await page.goto(`${app.url}/jobs/${tag}`);
  await page.fill("#typed", "12.4");
  await page.click(".answers button.strong");
  await page.waitForLoadState();
  assert.equal(await page.locator(".readings li").count(), 1);
});

test("a bypass found stands in red on the tag and on the bench", async () => {
  const page = await pageOf(browser, app, desk);
  const { tag } = await app.api("/jobs", { machine: "orchard-tractor-4", duty: "cranks" });
  await app.api(`/jobs/${tag}/complaint`, { heard: "nothing", failed: 3, tried: 3, bridged: ["seat/kill"] });
  await page.goto(`${app.url}/jobs/${tag}`);
  assert.match(await page.locator(".tag .bypass").innerText(), /seat kill/);
  await page.goto(`${app.url}/`);
  assert.match(await page.locator(".tags .bypass").first().innerText(), /seat kill/);
});

test("a machine file too large, and one with a loose end, are refused in words; a sound one is taken in", async () => {
  const page = await pageOf(browser, app, desk);
  const bring = async (text) => {
    await page.goto(`${app.url}/machines`);
    await page.setInputFiles("input[type=file]", { name: "mine.json", mimeType: "application/json", buffer: Buffer.from(text) });
    await Promise.all([page.waitForNavigation(), page.click("button:has-text('Check it')")]);
    return page.locator("main").innerText();
  };
  assert.match(await bring("x".repeat(5 * 1024 * 1024)), /mine\.json was refused; nothing was changed[\s\S]*larger than 2 MB/);
  const machine = await app.api("/machines/orchard-tractor-4");
  const loose = { ...machine, wires: machine.wires.filter((w) => w.id !== "47") };
  assert.match(await bring(JSON.stringify(loose)), /Loose end: a wire enters P1 cavity 10/);
  const own = { ...machine, id: "my-own", name: "Mine & <b>his</b>" };
  assert.match(await bring(JSON.stringify(own)), /\/name Must be 1 to 400 characters of plain text on one line, all of which print, without < or >/);
  assert.match(await bring(JSON.stringify({ ...own, name: "Mine & his" })), /Mine & his is here, version 1/);
  const big = await fetch(`${app.url}/api/v1/machines`, { method: "POST", headers: { "content-type": "application/json" }, body: `"${"x".repeat(5 * 1024 * 1024)}"` });
  assert.equal(big.status, 400);
  assert.match(await big.text(), /larger than 2 MB/);
});
