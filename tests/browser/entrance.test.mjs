// Who gets in where the application can be reached from other machines.
import assert from "node:assert/strict";
import { spawnSync } from "node:child_process";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { after, before, test } from "node:test";
import { App, launch, pageOf, program } from "./harness.mjs";

let app;
let browser;
let folder;

before(async () => {
  folder = await mkdtemp(join(tmpdir(), "pritchel-entrance-"));
  await writeFile(join(folder, "passphrase"), "barley field\n");
  app = await App.start("--empty", "--passphrase", join(folder, "passphrase"));
  browser = await launch();
});
after(async () => {
  await browser?.close();
  await app?.stop();
  await rm(folder, { recursive: true, force: true });
});

test("nothing is shown before the passphrase, and the page asked for after it", async () => {
  const page = await pageOf(browser, app, { width: 390, height: 844 });
  await page.goto(`${app.url}/machines`);
  assert.match(page.url(), /sign-in/);
  assert.equal(await page.locator("text=Orchard tractor").count(), 0);
  await page.fill("[name=words]", "wheat field");
  await page.keyboard.press("Enter");
  assert.match(await page.locator("[role=alert]").innerText(), /not it/);
  await page.fill("[name=words]", "barley field");
  await page.keyboard.press("Enter");
  // Its own address, not the one that names it as where to go back to.
  await page.waitForURL((at) => at.pathname === "/machines");
  assert.match(await page.locator("main").innerText(), /Orchard tractor/);
  assert.equal(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth), true);
  await Promise.all([page.waitForURL((at) => at.pathname === "/sign-in"), page.click("text=Sign out")]);
  await page.goto(`${app.url}/machines`);
  assert.match(page.url(), /sign-in/);
  assert.deepEqual(page.complaints, []);
});

test("the API says that one must sign in, and nothing else", async () => {
  const answer = await fetch(`${app.url}/api/v1/jobs`);
  assert.equal(answer.status, 401);
  assert.match(answer.headers.get("content-type"), /problem\+json/);
  assert.equal((await fetch(`${app.url}/health`)).status, 200);
});

test("it does not listen where others reach it without a passphrase", () => {
  const refused = spawnSync("dotnet", [program, "--urls", "http://0.0.0.0:0", "--data", join(folder, "data")], { encoding: "utf8", timeout: 60_000 });
  assert.equal(refused.status, 1);
  assert.match(refused.stderr, /--passphrase FILE/);
});
