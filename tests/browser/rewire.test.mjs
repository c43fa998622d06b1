// Rewires in the browser: an engine of another family into a tractor, from what stays to a proved machine and its first job;
// a mirrored plug and a chewed wire; and a drawing that is proved before it is saved.
import assert from "node:assert/strict";
import { test } from "node:test";
import { pageOf } from "./harness.mjs";
import { app, browser, serve } from "./served.mjs";
import { begin, flags, found, join, press, prove } from "./rewiring.mjs";

serve("--empty");

const tractorEngine = ["starter", "magneto", "fuel-cut", "winding", "rectifier", "oil-switch", "P3", "block"];
const twinEngine = ["starter", "magneto1", "diode1", "magneto2", "diode2", "stator", "regulator", "fuel-cut", "oil-switch", "block", "SP5"];

/** Flag of the end whose function and side are so, as the drawing has them. */
async function flag(page, where) {
  const texts = await page.locator(".marry text.number").allTextContents();
  const wheres = await page.locator(".marry text.where").allTextContents();
  return texts[wheres.findIndex((w) => w.includes(where))];
}

test("a twin goes into a tractor: married by function, proved, built join by join, and its first job begun", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await begin(page, app, "Tractor No. 4 takes the twin", "orchard-tractor-4", "orchard-zero-turn-7");
  for (const part of tractorEngine) await page.uncheck(`[name=HostKeeps][value='${part}']`);
  for (const part of twinEngine) await page.check(`[name=DonorKeeps][value='${part}']`);
  await press(page, "text=Keep this");
  assert.match(await page.locator(".tag").innerText(), /12 loose ends, 0 joins/);
  await press(page, "text=/Join these/");

  // Proved as suggested: all but the charge lead, which goes another way than before and was left to us.
  assert.match(await prove(page), /battery is not charged any more/);
  await press(page, "text=Put it right");
  await join(page, [await flag(page, "coupling P3, cavity 4"), await flag(page, "engine coupling, cavity 6")]);
  assert.match(await page.locator("[aria-labelledby=flags-title]").innerText(), /returns through the key/);
  assert.match(await prove(page), /Cranks, stops and charges as it did/);
  assert.equal(await page.locator("td.red").count(), 0);

  // A mistake planted: the kill parted again. Caught, and taken back.
  await press(page, "text=Marry");
  const kill = page.locator(".splices tr", { hasText: "ground to kill" });
  await Promise.all([page.waitForNavigation(), kill.locator("button").click()]);
  assert.match(await prove(page), /Is not stopped where it was before/);
  // The red cell lays out what is behind it: the kill's way to its metal as it was, and that there is none now.
  await press(page, "td.red a[href*='what=runs']");
  const behind = page.locator("[aria-labelledby=line-title]");
  assert.match(await behind.innerText(), /Kill of the .*, as it was/);
  assert.match(await behind.innerText(), /Nothing joins the kill lead to its metal/);
  assert.ok((await behind.locator("svg.line").count()) > 0);
  await press(page, "text=/Undo/");
  assert.match(await found(page), /Cranks, stops and charges as it did/);

  // In the bay, on the phone: one join after the other, with the flags large.
  await press(page, "text=Build it");
  await page.setViewportSize({ width: 390, height: 844 });
  for (let made = 0; made < 6; made++) await press(page, ".bay button:text-is('Done')");
  assert.match(await page.locator("main").innerText(), /All 6 joins are made/);
  const steps = await page.locator(".steps li").allInnerTexts();
  const at = (words) => steps.findIndex((s) => s.includes(words));
  assert.ok(at("HOLD") < at("Join 1:") && at("Join 6:") < at("First power") && at("First power") < at("Crank with the spark"));

  // It is a machine like any other: it cranks where it did, and can be complained of.
  await page.setViewportSize({ width: 1280, height: 800 });
  await press(page, "text=Prove");
  await press(page, "text=Save as a machine");
  const id = new URL(page.url()).pathname.split("/").pop();
  const measure = (setting) => app.api(`/machines/${id}/measure`, { setting, red: "in-starter.post", black: "battery.-" });
  assert.ok((await measure({ key: "START", brake: "down" })).value > 9);
  assert.ok((await measure({ key: "START" })).value < 0.1);
  const job = await app.api("/jobs", { machine: id, duty: "cranks" });
  assert.match(job.tag, /^T-/);
  assert.deepEqual(page.complaints, []);
});

test("a coupling cut out and joined through mirrored is caught, and joined straight is sound", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await begin(page, app, "P3 burnt, joined through", "orchard-tractor-4");
  await page.uncheck("[name=HostKeeps][value='P3']");
  await press(page, "text=Keep this");
  const of = await flags(page);
  // Cavities 1 to 4, main side to engine side, by the wire list.
  const main = ["host:13@to", "host:21@to", "host:24@from", "host:44@from"];
  const engine = ["host:14@from", "host:22@from", "host:23@to", "host:43@to"];
  for (const [i, end] of main.entries()) await join(page, [of[end], of[engine[3 - i]]]);
  assert.match(await prove(page), /hazard|lost/i);
  assert.ok((await page.locator("td.red").count()) > 0);
  await press(page, "text=Put it right");
  for (const [i, end] of main.entries()) await join(page, [of[end], of[engine[i]]]);
  assert.match(await prove(page), /Cranks, stops and charges as it did/);
});

test("an engine known by its plug alone goes into a tractor: drawn by hand, a guess called one, proved by what stands in", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/rewires`);
  await press(page, "text=Draw the plug by hand");
  await page.fill("[name=Name]", "plug of a bare engine");
  const leads = [
    ["1", "black", "Ground", "Read"],
    ["2", "white/black", "Kill", "ByColour"],
    ["3", "yellow", "StartFeed", "Followed"],
    ["4", "crimson", "ChargeWinding", "Followed"],
    ["5", "violet", "OilSwitch", "OnPaper"],
  ];
  const write = async () => {
    for (const [i, [cavity, colours, what, known]] of leads.entries()) {
      await page.fill(`[name='Leads[${i}].Cavity']`, cavity);
      await page.fill(`[name='Leads[${i}].Colours']`, colours);
      await page.selectOption(`[name='Leads[${i}].Function']`, what);
      await page.selectOption(`[name='Leads[${i}].Known']`, known);
    }
  };
  await write();
  await press(page, "text=Keep it");
  assert.match(await page.locator("#error").innerText(), /Cavity 4: “crimson” is not a colour/);
  assert.equal(await page.inputValue("[name='Leads[4].Cavity']"), "5");
  await press(page, "text=More rows");
  assert.equal(await page.inputValue("[name='Leads[1].Colours']"), "white/black");
  leads[3][1] = "blue";
  await write();
  await press(page, "text=Keep it");

  // It is the donor chosen; what is behind its half comes without being ticked.
  await page.fill("[name=Name]", "Tractor takes a bare engine");
  await page.selectOption("[name=Host]", "orchard-tractor-4");
  await press(page, "text=Begin");
  for (const part of tractorEngine) await page.uncheck(`[name=HostKeeps][value='${part}']`);
  await press(page, "text=Keep this");
  await press(page, "text=/Join these/");
  const look = await page.locator("[aria-labelledby=flags-title]").innerText();
  assert.match(look, /ignition kill was guessed by its colour. Stop, start and feed leads are not cut on a guess/);
  assert.match(look, /known from paper alone/);
  const joined = await page.locator(".splices").innerText();
  assert.match(joined, /ground to kill to .*; ground to kill to ignition kill/);
  assert.match(joined, /oil lamp -; signal to oil switch out/);
  await prove(page);
  assert.match(await page.locator("main").innerText(), /Rests on parts that stand in.*ignition.*start solenoid.*starter/s);

  // The kill grounds it in every setting that it did before: nothing runs on that was stopped.
  const runs = await page.locator(".proof-grid tbody tr td:nth-child(3)").allInnerTexts();
  assert.ok(runs.length > 1 && runs.every((r) => !/was stopped/.test(r)), runs.join(" | "));
  assert.deepEqual(page.complaints, []);
});

test("a drawing that loses its kill is not saved before its proof was looked at", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/machines/orchard-tractor-4`);
  await page.click("text=Make it yours");
  await page.locator("form", { hasText: "Change this machine" }).locator("button").click();
  await page.waitForURL(/drafts/);
  await page.locator(".loom a[aria-label^='26 '][aria-label*='wire from']").first().click();
  await page.locator("h2:text-is('Wire 26')").waitFor();
  await Promise.all([page.waitForNavigation(), page.locator(".item button", { hasText: "Take out" }).first().click()]);
  await page.locator(".loom a[aria-label^='25 '][aria-label*='wire from']").first().click();
  await page.locator("h2:text-is('Wire 25')").waitFor();
  await Promise.all([page.waitForNavigation(), page.locator(".item button", { hasText: "Take out" }).first().click()]);
  await Promise.all([page.waitForNavigation(), page.locator("text=/^Save version/").click()]);
  assert.match(await page.locator("#proof").innerText(), /Is not stopped where it was before/);
  await Promise.all([page.waitForNavigation(), page.click("text=Save all the same")]);
  assert.match(page.url(), /machines\/orchard-tractor-4$/);
});

test("an unknown loom is traced on the phone, beep by beep, and drawn as a machine", async () => {
  const page = await pageOf(browser, app, { width: 390, height: 844 });
  await page.goto(`${app.url}/rewires`);
  await page.fill("[name=LoomName]", "loom off a shed floor");
  await page.fill("[name=Plugs]", "P1: red, black, white\nP2 1.5 m: red, blue, black\nP3: brown, ?");
  await page.fill("[name=Switches]", "key behind P9: OFF, RUN");
  await page.click("text=Trace it");
  assert.match(await page.locator("#loom-error").innerText(), /“P9” is not among the plugs/);
  assert.match(await page.inputValue("[name=Plugs]"), /blue/);
  await page.fill("[name=Switches]", "key behind P1: OFF, RUN");
  await page.click("text=Trace it");
  await page.waitForURL(/looms/);

  // By hand: red through; black through and on to P3 1; white to P2 2 and P3 2 goes nowhere; the key joins red and white at RUN.
  const nets = [["P1 1", "P2 1"], ["P1 2", "P2 3", "P3 1"], ["P1 3", "P2 2"]];
  const net = (end) => nets.findIndex((n) => n.includes(end));
  for (let k = 0; k < 150 && (await page.locator("button:has-text('Silent')").count()) > 1; k++) {
    const asked = (await page.locator("#next-title").innerText()).match(/(P\d \d)[^P]*to (P\d \d)(.*)/);
    const [a, b] = [net(asked[1]), net(asked[2])];
    const key = /RUN/.test(asked[3]) && new Set([a, b]).size === 2 && [a, b].every((n) => n === 0 || n === 2);
    await page.click((a >= 0 && a === b) || key ? "text=Beeps, under 1 Ω" : ".beep-answers button:has-text('Silent')");
    await page.waitForLoadState();
  }
  const copper = await page.locator("[aria-labelledby=copper-title]").innerText();
  assert.match(copper, /P1 2 black · P2 3 black · P3 1 brown\s+joined in the loom/);
  assert.match(copper, /P1 3 white · P2 2 blue\s+a wire/);
  assert.match(copper, /P3 2\s+goes nowhere/);
  assert.match(copper, /key at RUN: joins P1 1 red and P1 3 white/);
  await page.fill("[aria-label='Goes to']", "start solenoid, S");
  await page.click("text=It goes there");
  assert.match(await page.locator("[aria-labelledby=copper-title]").innerText(), /start solenoid, S/);
  assert.equal(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth), true);
  await page.click("text=Draw it as a machine");
  await page.waitForURL(/drafts/);
  assert.match(await page.locator("h1").first().innerText(), /loom off a shed floor/);
  assert.deepEqual(page.complaints, []);
});
