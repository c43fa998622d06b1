// Complaints of several circuits, hunted in the browser as their electrician would, to what is hidden in the machine.
import assert from "node:assert/strict";
import { test } from "node:test";
import { app, browser, serveShared } from "./served.mjs";
import * as hunting from "./hunting.mjs";

const hunt = (told) => hunting.hunt({ app, browser }, told);
const complain = (told) => hunting.complain({ app, browser }, told);

serveShared();

test("a walk-behind that will not stop: its brake switch no longer closes, found by ohms on the stop wire", async () => {
  const { page, asked, verdict } = await hunt({
    machine: "hedgerow-mower-2",
    complaint: "Runs on with lever let go (magneto coil)",
    says: "Runs on",
    fault: "brake-switch/stop/open",
  });
  assert.match(verdict, /stop switch at the flywheel brake/i);
  assert.ok(asked.every((a) => /^(ohms|beep):/.test(a)), asked.join("\n"));
  await page.click("text=Take this verdict");
  await page.waitForURL(/repair$/);
});

test("a V-twin that runs on with the key off: its left kill diode is open", async () => {
  const { verdict } = await hunt({
    machine: "orchard-zero-turn-7",
    complaint: "Runs on with key at OFF (left coil)",
    says: "Runs on",
    fault: "diode1/open",
    spark: () => 2,
  });
  assert.match(verdict, /left kill diode/i);
});

test("a battery flat every morning: amps out of it, and the regulator lets them back", async () => {
  const { asked, verdict } = await hunt({
    machine: "quay-scooter-3",
    complaint: "Battery flat overnight",
    says: "Flat after a night",
    fault: "regulator/ac-plus-shorted",
  });
  assert.match(verdict, /regulator/i);
  assert.ok(asked.some((a) => a.startsWith("amps:") || a.startsWith("volts:")), asked.join("\n"));
});

test("a side-by-side whose fuel pump is silent: looked for while it is cranked, its relay's contacts do not close", async () => {
  const { asked, verdict } = await hunt({
    machine: "ridge-carrier-4",
    complaint: "Fuel pump does not work",
    says: "Nothing",
    fault: "pump-relay/contact-open",
  });
  assert.match(verdict, /pump relay/i);
  assert.ok(asked.every((a) => !a.includes("working speed")), asked.join("\n"));
});

test("a quad that clicks and does not crank: the contacts of its start relay", async () => {
  const { verdict } = await hunt({ machine: "hill-quad-2", complaint: "Does not crank", says: "One click", fault: "solenoid/contact-open" });
  assert.match(verdict, /start relay/i);
});

test("a quad that clicks and cranks on jump leads: its battery, and the sheet says what was tried", async () => {
  const { page, verdict } = await hunt({ machine: "hill-quad-2", complaint: "Does not crank", says: "One click", onLeads: "yes", fault: "battery/weak" });
  assert.match(verdict, /battery/i);
  assert.doesNotMatch(verdict, /relay|starter/i);
  await page.goto(`${page.url().match(/^.*\/jobs\/T-\d+/)[0]}/sheet`);
  assert.match(await page.locator("body").innerText(), /On jump leads from a good battery: yes/);
});

test("a scooter that does nothing at START: its front brake-lever switch no longer reaches", async () => {
  const { verdict } = await hunt({ machine: "quay-scooter-3", complaint: "Does not crank", says: "Nothing at all", fault: "front-lever/made/open" });
  assert.match(verdict, /front brake lever switch/i);
});

test("a side-by-side whose relays chatter at START: its battery is worn out", async () => {
  const { verdict } = await hunt({ machine: "ridge-carrier-4", complaint: "Does not crank", says: "Chatters", lamps: { "check lamp, key ON · brake down": "Bright", "check lamp, key START · brake down": "Out" }, fault: "battery/weak" });
  assert.match(verdict, /^battery: (worn out|one cell|flat)/im);
});

test("a tractor that dies as its rider gets up works as designed; the seat switch found bridged stands in red until it is out", async () => {
  const { page, file } = await complain({
    machine: "orchard-tractor-4",
    complaint: "Magneto: no spark",
    says: "No spark",
    stood: { brake: "up", seat: "empty" },
    engine: "at idle",
    bridged: ["seat/kill"],
  });
  assert.match(await page.locator(".test").innerText(), /working as designed[\s\S]*brake up and off the seat[\s\S]*on the seat/i);
  assert.match(await page.locator(".tag .bypass").innerText(), /seat kill/i);
  assert.equal(await page.locator("#typed").count(), 0);
  await Promise.all([page.waitForURL(/repair$/), page.click("text=Take this verdict")]);
  await page.fill("input[name=Done]", "Shown to the rider; the wire across the seat switch taken out");
  await page.fill("input[name=MinutesTaken]", "10");
  await Promise.all([page.waitForURL(/prove$/), page.click("text=Done, now prove it")]);
  const stops = await page.locator(".checks li", { hasText: "the engine must stop" }).count();
  assert.ok(stops >= 3, `${stops} ways of stopping to prove`);
  assert.match(await page.locator(".bypass button").innerText(), /taken out/);
  for (let waiting; (waiting = page.locator(".checks li:not(.passed) button[name=passed][value=true]").first()) && (await waiting.count()); ) {
    await Promise.all([page.waitForNavigation(), waiting.click()]);
  }
  assert.match(await page.locator("form button.danger").innerText(), /not proved/);
  await Promise.all([page.waitForNavigation(), page.click("text=It is taken out")]);
  await Promise.all([page.waitForNavigation(), page.click("text=Close, proved")]);
  assert.match(await page.locator(".closed-note").innerText(), /proved/);
  assert.ok(file.controls.some((c) => c.id === "seat"));
  assert.deepEqual(page.complaints, []);
});

test("a cruiser's engine that will not crank with its battery bank off works as designed", async () => {
  const { page } = await complain({
    machine: "sound-cruiser-2",
    complaint: "Port engine does not crank",
    says: "Nothing at all",
    stood: { "p-bank": "OFF" },
  });
  assert.match(await page.locator(".test").innerText(), /working as designed[\s\S]*port bank on/i);
});

test("an engine with no fuel: it sparks, so nothing is wrong in the circuit, and it is said where to look", async () => {
  const { page } = await hunt({
    machine: "hedgerow-mower-2",
    complaint: "Magneto coil: no spark",
    says: "will not start",
    failed: 1,
    tried: 1,
    spark: () => 2,
  });
  assert.match(await page.locator(".verdict").first().innerText(), /nothing wrong in this circuit/i);
  await Promise.all([page.waitForURL(/repair$/), page.click("text=Take this verdict")]);
  assert.match(await page.locator("main").innerText(), /fuel[\s\S]*compression/i);
});

test("one failed start in four through a corroded coupling, proved after twenty-four clean tries", async () => {
  const { page, verdict } = await hunt({
    machine: "orchard-tractor-4",
    complaint: "Does not crank",
    says: "Nothing at all",
    failed: 1,
    tried: 4,
    fault: "P2/1/resistive",
  });
  assert.match(verdict, /coupling P2, cavity 1/i);
  await Promise.all([page.waitForURL(/repair$/), page.click("text=Take this verdict")]);
  await page.fill("input[name=Done]", "Pin and socket of cavity 1 renewed");
  await page.fill("input[name=MinutesTaken]", "15");
  await Promise.all([page.waitForURL(/prove$/), page.click("text=Done, now prove it")]);
  // Beta(1.5, 3.5) before; the chance of m clean tries with nothing mended is the product of (3.5 + i)/(5 + i), under 0.05 at 24.
  const tries = page.locator(".checks li", { hasText: "clean tries running" });
  assert.match(await tries.innerText(), /24 clean tries/);
  for (let t = 0; t < 23; t++) await Promise.all([page.waitForNavigation(), tries.locator("button[name=passed][value=true]").click()]);
  assert.equal(await page.locator(".checks li.passed", { hasText: "clean tries running" }).count(), 0);
  await Promise.all([page.waitForNavigation(), tries.locator("button[name=passed][value=true]").click()]);
  assert.equal(await page.locator(".checks li.passed", { hasText: "clean tries running" }).count(), 1);
});
