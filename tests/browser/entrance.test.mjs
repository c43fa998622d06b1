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

const signIn = async (page, name, words) => {
  await page.fill("[name=Name]", name);
  await page.fill("[name=words]", words);
  await page.keyboard.press("Enter");
};

test("the passphrase makes an owner, the owner takes a helper in, the helper's name stands at what was entered", async () => {
  const owner = await pageOf(browser, app, { width: 1280, height: 800 });
  await owner.goto(`${app.url}/machines`);
  assert.match(owner.url(), /sign-in/);
  assert.equal(await owner.locator("text=Orchard tractor").count(), 0);
  await owner.fill("[name=secret]", "wheat field");
  await signIn(owner, "Ines", "quiet harbour");
  assert.match(await owner.locator("[role=alert]").innerText(), /not this workshop/);
  assert.equal(await owner.inputValue("[name=Name]"), "Ines");
  await owner.fill("[name=secret]", "barley field");
  await signIn(owner, "Ines", "quiet harbour");
  // Its own address, not the one that names it as where to go back to.
  await owner.waitForURL((at) => at.pathname === "/machines");
  assert.match(await owner.locator("main").innerText(), /Orchard tractor/);

  await owner.click("text=Who works here");
  const form = owner.locator("section[aria-labelledby=new-title]");
  await form.locator("[name=Name]").fill("Ola");
  await form.locator("[value=Helper]").check();
  await form.locator("[name=words]").fill("short");
  await form.locator("button").click();
  assert.match(await owner.locator("[role=alert]").innerText(), /8 characters or more/);
  assert.equal(await form.locator("[name=Name]").inputValue(), "Ola");
  assert.equal(await form.locator("[value=Helper]").isChecked(), true);
  await form.locator("[name=words]").fill("low tide walk");
  await form.locator("button").click();
  await owner.locator(".members strong:text-is('Ola')").waitFor();
  const { tag } = await owner.evaluate(async () => {
    const send = (path, body) => fetch(path, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) }).then((r) => r.json());
    const job = await send("/api/v1/jobs", { machine: "orchard-tractor-4", duty: "cranks" });
    await send(`/api/v1/jobs/${job.tag}/complaint`, { heard: "nothing", failed: 3, tried: 3 });
    return job;
  });

  const helper = await pageOf(browser, app, { width: 390, height: 844 });
  await helper.goto(`${app.url}/jobs/${tag}`);
  await signIn(helper, "ola", "low tide walk");
  await helper.waitForURL((at) => at.pathname === `/jobs/${tag}`);
  await helper.fill("[name=Typed]", "0");
  await Promise.all([helper.waitForResponse((r) => r.request().method() === "POST"), helper.keyboard.press("Enter")]);
  await helper.goto(`${app.url}/jobs/${tag}/history`);
  assert.match(await helper.locator("tbody tr").first().innerText(), /Ines/);
  assert.match(await helper.locator("tbody tr").last().innerText(), /Ola/);
  assert.equal(await helper.evaluate(() => document.documentElement.scrollWidth <= innerWidth), true);
  await helper.goto(`${app.url}/members`);
  assert.match(await helper.locator("main").innerText(), /for an owner; this account is a helper/);

  await Promise.all([helper.waitForURL((at) => at.pathname === "/sign-in"), helper.click("text=Sign out")]);
  await helper.goto(`${app.url}/machines`);
  assert.match(helper.url(), /sign-in/);
  assert.deepEqual(owner.complaints, []);
  // The page that says no answers with its status, which the browser notes.
  assert.deepEqual(helper.complaints.filter((c) => !/403/.test(c)), []);
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
