// Stories that mechanics tell, each with what its circuit says by hand: what must be found, and what must not be condemned.
import assert from "node:assert/strict";
import { test } from "node:test";
import { app, browser, serveShared } from "./served.mjs";
import * as hunting from "./hunting.mjs";

const hunt = (told) => hunting.hunt({ app, browser }, told);

serveShared();

// By hand: 2 and 3 feed the key, 4 leaves it at ON; wire 48 alone is live at LIGHTS and not before, and behind the lamp fuse that one blows.
test("a fuse that blows only with the key at LIGHTS: the one wire between key and lamp fuse", async () => {
  const { verdict } = await hunt({ machine: "hill-quad-2", complaint: "Main fuse blows with key at LIGHTS, not before", says: "It goes each time", fault: "48/chafed" });
  assert.match(verdict, /key switch L to lamp fuse/i);
});

// By hand: seat and blade contacts ground the kill lead in series once the seat is up; a seat switch that stays closed grounds it with somebody
// on the seat as soon as the blades go in. It starts, for the blades are out then: coil and plug are sound.
test("a tractor that goes out as the blades go in, somebody on the seat: the seat switch, and no coil", async () => {
  const { asked, verdict } = await hunt({
    machine: "orchard-tractor-4",
    complaint: "Runs, but goes out: blades engaged, on the seat",
    says: "It goes out",
    fault: "seat/kill/welded",
    spark: (setUp) => (/kill wire off/.test(setUp) ? 2 : 0),
  });
  assert.match(verdict, /^seat switch/im);
  assert.ok(asked.length <= 6, asked.join("\n"));
});

// By hand: with the stand up its switch grounds the stand relay's coil; that contact open, the ignition is fed in neutral alone.
test("a twin that goes out in gear though the stand is up: the stand switch, its plug or its leads", async () => {
  const { verdict } = await hunt({ machine: "ridge-twin-1", complaint: "Runs, but goes out: in gear, stand up", says: "It goes out", fault: "stand-switch/up/open" });
  assert.match(verdict, /^side-stand switch/im);
});

// By hand: welded contacts turn the starter with everything at rest; no button, lever or neutral switch is fed then.
test("a starter that stays in: the contacts of its relay are welded, and nothing else is condemned", async () => {
  const { verdict } = await hunt({ machine: "hill-quad-2", complaint: "Starter turns by itself, or stays in", says: "It turns all the same", fault: "solenoid/welded" });
  assert.match(verdict, /start relay/i);
});

// By hand: the lamp grounds through its switch; its lead bare on the frame lights it with the switch open.
test("an oil lamp that is lit while the oil is right: its lead lies bare, and neither bulb nor switch is condemned", async () => {
  const { verdict } = await hunt({ machine: "orchard-tractor-4", complaint: "Oil lamp is lit with the engine running", says: "It does it all the same", fault: "20/chafed" });
  assert.match(verdict, /oil lamp − to|insulation|bare/i);
  assert.doesNotMatch(verdict, /^oil (lamp: bulb|switch)/im);
});

// The oil really is low: it is said to be checked before a wire is doubted, it is found so, and no part is condemned or ordered.
test("an oil lamp that is telling the truth: the oil is checked first, and nothing is renewed", async () => {
  const { page } = await hunting.complain({ app, browser }, { machine: "orchard-tractor-4", complaint: "Oil lamp is lit with the engine running", says: "It does it all the same" });
  assert.match(await page.locator("#test-form .caution").first().innerText(), /check that first: level[\s\S]*tells the truth/i);
  await Promise.all([page.waitForURL(/repair$/), page.click("text=It is so: it tells the truth")]);
  assert.match(await page.locator("main").innerText(), /tells the truth[\s\S]*renew no sender, bulb or wire/i);
  assert.doesNotMatch(await page.locator("main").innerText(), /interlock/i);
  await page.fill("input[name=Done]", "Half a litre of oil, drain plug nipped up");
  await page.fill("input[name=MinutesTaken]", "15");
  await Promise.all([page.waitForURL(/prove$/), page.click("text=Done, now prove it")]);
  assert.match(await page.locator(".checks").first().innerText(), /oil lamp stays dark/i);
  assert.deepEqual(page.complaints, []);
  await page.goto(page.url().replace(/prove$/, "sheet"));
  const sheet = await page.locator("body").innerText();
  assert.match(sheet, /It tells the truth/);
  assert.doesNotMatch(sheet, /renew/i);
});

// By hand: at speed the kill line stands at some hundred volts, which jump the damp at wire 28 and not at idle. With the kill
// wire off at the coil it runs; with the harness plug apart behind that wire it does not.
test("an outboard that misfires above idle: the kill wire that tracks to metal there, and neither coil nor pack is condemned", async () => {
  const { verdict } = await hunt({
    machine: "tide-outboard-3",
    complaint: "Top coil: misses or cuts out above idle",
    says: "No spark",
    fault: "28/damp",
    spark: (setUp) => (/at working speed/.test(setUp) && !/kill wire off/.test(setUp) ? 0 : 2),
  });
  assert.match(verdict, /28|black\/yellow|insulation/i);
  assert.doesNotMatch(verdict, /^(top|bottom) (coil|ignition pack)/im);
});

// By hand: a leg burnt through to the core still charges at work; at idle with the lamps on it does not. It is read from a lead to ground with the plug apart.
test("a three-phase stator with a leg on its core is found at its own leads, and its regulator is not blamed", async () => {
  const { asked, verdict } = await hunt({
    ...hunting.chargesLowWithLampsOn,
    fault: "stator/a-to-core",
    severity: 1,
  });
  assert.match(verdict, /^stator: /im);
  assert.ok(asked.some((a) => /^(ohms|beep|acVolts):.*(apart|off)/.test(a)), asked.join("\n"));
});

// By hand: three floating legs read OL to their core; a third of an ohm there, twice, is a leg on it, whatever the battery does.
test("a three-phase stator's own sheet decides the open job that doubts it", async () => {
  const told = hunting.chargesLowWithLampsOn;
  const { page, file } = await hunting.complain({ app, browser }, told);
  await page.locator(".suspect-list li", { hasText: /stator/i }).first().getByText("test it by itself").click();
  for (let k = 0; k < 2; k++) {
    await page.click("a:text-is('Ohms, a to core'), strong:text-is('Ohms, a to core')");
    await page.fill("#typed", "0.3");
    await Promise.all([page.waitForNavigation(), page.press("#typed", "Enter")]);
  }
  assert.match(await page.locator("[aria-labelledby=so-far] .verdict").innerText(), /core/i);
  await Promise.all([page.waitForURL(/jobs\/T-\d+$/), page.click("text=/^Save to job/")]);
  assert.match(await page.locator(".suspect-list li").first().innerText(), /stator/i);
  const faults = [{ id: "stator/a-to-core", severity: 1 }];
  const { asked, verdict } = await hunting.pursue({ app, browser }, page, file, { machine: told.machine, faults });
  assert.match(verdict, /^stator: leg a: burnt through to its core/im);
  assert.ok(asked.length <= 4, asked.join("\n"));
});

// By hand: the lead between the left coil and its plug lies bare on the engine: each coil fires with its kill lead off, so neither coil is bad.
test("a kill lead bare on the coil's side of a zero-turn's coupling: neither coil is condemned", async () => {
  const file = await app.api("/machines/orchard-zero-turn-7");
  const lead = file.wires.find((w) => [w.from.at, w.to.at].some((a) => a === "magneto1.kill"));
  const { verdict } = await hunt({
    machine: "orchard-zero-turn-7",
    complaint: "Left coil: no spark",
    says: "No spark",
    fault: `${lead.id}/chafed`,
    severity: 1,
    spark: (setUp) => (/kill wire off/.test(setUp) ? 2 : 0),
  });
  assert.doesNotMatch(verdict, /^(left|right) coil/im);
  assert.match(verdict, /wire|insulation|bare/i);
});

// By hand: after key-off the timer feeds the stop relay and that its solenoid; with the relay's contacts gone the solenoid is never fed.
test("a tracked machine that does not stop at key-off: the contacts of its stop relay", async () => {
  const { verdict } = await hunt({ machine: "terrace-dumper-1", complaint: "Does not stop with key at OFF: stop solenoid", says: "Runs on", fault: "stop-relay/contact-open", from: { key: "ON" } });
  assert.match(verdict, /stop relay/i);
});

// By hand: with a brush that does not touch there is no field, and both legs show what is left in the iron.
test("a generator with residual volts on both legs: a brush that does not reach its ring", async () => {
  const { verdict } = await hunt({ machine: "packhouse-generator-1", complaint: "Left outlet does not work", says: "Dim or weak", fault: "generator/brush-worn" });
  assert.match(verdict, /brush/i);
});

// By hand: the alarm's lead lies bare on the block and sounds it whatever the switch does; a new switch changed nothing.
test("a temperature alarm whose switch was renewed for nothing: its lead is bare on the block", async () => {
  const { verdict } = await hunt({
    machine: "sound-cruiser-2",
    complaint: "Port temperature alarm sounds with the engine running",
    says: "It does it all the same",
    renewed: "part:p-thermo",
    fault: "42/chafed",
  });
  assert.match(verdict, /port engine plug cavity 7 to port alarm switch out/i);
  assert.doesNotMatch(verdict, /^port alarm switch/im);
});

// By hand: a burnt contact passes a meter's microamps: with the relay's lead off it reads full, loaded it leaves the relay nothing.
test("a start button's burnt contact is found though it reads full volts with nothing drawn", async () => {
  const button = { id: "start-button/start/resistive", severity: 1 };
  const unloaded = await app.api("/machines/harbour-launch-1/measure", { setting: { switch: "START", on: "on", start: "pressed" }, off: ["11@to"], function: "dcVolts", red: "start-button.2", black: "block.ground stud", faults: [button] });
  assert.ok(unloaded.value > 11.5, `${unloaded.value}`);
  const { verdict } = await hunt({ machine: "harbour-launch-1", complaint: "Does not crank", says: "Nothing at all", fault: button.id, severity: button.severity });
  assert.match(verdict, /start button/i);
});

// By hand: the violet lead is live at the key and off at the blade switch; mended, the brake switch beyond it is open too.
test("a push-on off at the far end of a wire, mended, and a second fault behind it after a proof that failed", async () => {
  const off = { id: "4@to/joint/open" };
  const brake = { id: "brake/start/open" };
  const told = { machine: "orchard-tractor-4", complaint: "Does not crank", says: "Nothing at all" };
  const { page, file } = await hunting.complain({ app, browser }, told);
  const first = await hunting.pursue({ app, browser }, page, file, { machine: told.machine, faults: [off, brake] });
  assert.match(first.verdict, /key switch S to blade switch in/i);
  await Promise.all([page.waitForURL(/repair$/), page.click("text=Take this verdict")]);
  await page.fill("input[name=Done]", "Push-on crimped anew and pushed home");
  await page.fill("input[name=MinutesTaken]", "8");
  await Promise.all([page.waitForURL(/prove$/), page.click("text=Done, now prove it")]);
  await Promise.all([page.waitForNavigation(), page.locator(".checks li button[value=false]").first().click()]);
  await Promise.all([page.waitForURL(/T-\d+$/), page.click("text=It fails still: measure on")]);
  const second = await hunting.pursue({ app, browser }, page, file, { machine: told.machine, faults: [brake] });
  assert.match(second.verdict, /brake switch/i);
});

// By hand: nothing but the regulator holds the volts down; a stator gives no more than it is asked for.
test("a battery that boils: the regulator does not hold its volts, and the stator is not condemned", async () => {
  const { verdict } = await hunt({ machine: "orchard-zero-turn-7", complaint: "Battery is not charged", says: "Too much", fault: "regulator/overcharging" });
  assert.match(verdict, /regulator/i);
  assert.doesNotMatch(verdict, /^stator/im);
});
