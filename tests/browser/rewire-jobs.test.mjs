// Whole rewires in the browser, each from its cuts to printed steps and a proved machine, with mistakes planted on the way.
import assert from "node:assert/strict";
import { test } from "node:test";
import { pageOf } from "./harness.mjs";
import { app, browser, serve } from "./served.mjs";
import { begin, build, flags, found, join, keep, press, prove, save } from "./rewiring.mjs";

serve("--empty");

// By hand: wire 24 is the kill lead between loom and engine. Left open the key stops nothing; joined, all is as before. As built it is 1.2 m longer.
test("a chewed section in mid-wire: left open nothing stops it, joined it is sound, and a short lead gets its extension", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await begin(page, app, "Mouse in the loom", "orchard-tractor-4");
  await keep(page, { cuts: "24" });
  assert.match(await prove(page), /Is not stopped where it was before/);
  await press(page, "text=Put it right");
  await press(page, "text=/Join these/");
  assert.match(await prove(page), /Cranks, stops and charges as it did/);
  const steps = await build(page);
  assert.ok(steps.some((s) => /Cut through wire 24 on Orchard tractor/.test(s)));

  const drawn = (await app.api("/machines/orchard-tractor-4")).wires.find((w) => w.id === "24").lengthM;
  await page.fill("[name=BuiltMetres]", "none of your business");
  await press(page, "button:text-is('Keep it')");
  assert.match(await page.locator(".error").innerText(), /0\.02 to 30 m/);
  assert.equal(await page.inputValue("[name=BuiltMetres]"), "none of your business");
  const built = drawn / 2 + 1.2;
  await page.fill("[name=BuiltMetres]", built.toFixed(3));
  await press(page, "button:text-is('Keep it')");
  assert.match(await page.locator("[aria-labelledby=cuts-title]").innerText(), /flag 1/);

  const id = await save(page);
  const wire = (await app.api(`/machines/${id}`)).wires.find((w) => w.id === "24a");
  assert.ok(Math.abs(wire.lengthM - built) < 0.001, `${wire.lengthM}`);
  assert.deepEqual(page.complaints, []);
});

// By hand: 9 leaves the start button, 11 ends at the start relay; the seven metres between them stay where they are, dead and capped.
test("a bypass run beside a boat's start circuit, whose middle stays dead in place", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await begin(page, app, "Start lead past the bilge", "harbour-launch-1", "template-bypass");
  await keep(page, { cuts: "9, 11" });
  const of = await flags(page);
  const [feed, load] = Object.keys(of).filter((e) => e.startsWith("donor:")).map((e) => of[e]);

  // A mistake planted: put on the wrong half of the old lead, it feeds the dead middle.
  await join(page, [of["host:9a@to"], feed]);
  await join(page, [of["host:11a@to"], load]);
  assert.match(await prove(page), /Cranks no more where it did/);
  await press(page, "text=Put it right");
  await join(page, [of["host:11b@from"], load]);
  assert.match(await prove(page), /Cranks, stops and charges as it did/);

  const steps = await build(page);
  assert.ok(steps.some((s) => s.startsWith("Left over, flags") && s.includes(of["host:9b@from"]) && s.includes(of["host:11a@to"])));
  assert.match(await page.locator("[aria-labelledby=cuts-title]").innerText(), /Off the spool/);
  const id = await save(page);
  const volts = await app.api(`/machines/${id}/measure`, { setting: { switch: "START", on: "on", start: "pressed" }, red: "start-relay.86", black: "block.ground stud" });
  assert.ok(volts.value > 9, `${volts.value}`);
  assert.deepEqual(page.complaints, []);
});

// By hand: the stand's own starter, ignition, winding and block go, another engine's come; studs, straps and metal are joined like wires.
test("a bare engine onto a stand, its grounds by studs and straps, one of them forgotten at first", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await begin(page, app, "Tractor's engine on the stand", "run-stand-1", "orchard-tractor-4");
  await keep(page, {
    gone: ["starter", "magneto", "fuel-cut", "winding", "rectifier", "block", "P2"],
    comes: ["starter", "magneto", "fuel-cut", "winding", "rectifier", "oil-switch", "block"],
  });
  await press(page, "text=/Join these/");
  const of = await flags(page);
  const ground = page.locator(".splices tr", { has: page.locator(`td:text-matches('^${of["host:C3@to"]} on ')`) });
  await Promise.all([page.waitForNavigation(), ground.locator("button").click()]);
  assert.match(await prove(page), /Cranks no more where it did/);
  await press(page, "text=/Undo/");
  assert.match(await found(page), /Cranks, stops and charges as it did/);
  const steps = await build(page);
  assert.ok(steps.findIndex((s) => s.startsWith("HOLD")) < steps.findIndex((s) => s.startsWith("Join 1:")));
  const id = await save(page);
  const job = await app.api("/jobs", { machine: id, duty: "cranks" });
  assert.match(job.tag, /^T-/);
  assert.deepEqual(page.complaints, []);
});

// By hand: the pack that comes is fed by the battery and wants volts with the key, where the old one had the exciter's alternating lead.
test("an ignition pack with its branch out of one quad's loom goes into another's, and is not fed by the exciter", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await begin(page, app, "Pack of No. 2 into No. 5", "hill-quad-5", "hill-quad-2");
  await keep(page, { gone: ["cdi", "P3", "exciter"], comes: ["cdi", "P3"] });
  await press(page, "text=/Join these 4/");
  const of = await flags(page);

  // A mistake planted: the exciter's old lead onto the pack's feed, as its place in the plug suggests. It is no feed, and nothing runs.
  await join(page, [of["host:11@to"], of["donor:11@from"]]);
  assert.match(await prove(page), /Runs in no setting at all/);
  await press(page, "text=Put it right");
  await join(page, [of["donor:11@from"]], "host:key.A");
  await join(page, [of["donor:34@from"]], "host:frame.battery bolt");
  assert.match(await prove(page), /Cranks, stops and charges as it did/);
  await build(page);
  const id = await save(page);
  const file = await app.api(`/machines/${id}`);
  assert.ok(file.parts.some((p) => p.kind === "cdi-battery-fed"));
  assert.deepEqual(page.complaints, []);
});

// By hand: P2 carries the start feed to the solenoid, P4 the seat switch's stop lead, two cavities each. Crossed, the start feed ends at the seat
// switch and the stop lead lies on ground through the solenoid's coil.
test("two plugs of like cavities cut out and crossed are caught, with the cure, and joined straight they are sound", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await begin(page, app, "Both plugs under the seat burnt", "orchard-tractor-4");
  await keep(page, { gone: ["P2", "P4"] });
  const of = await flags(page);
  await join(page, [of["host:7@to"], of["host:29@from"]]);
  await join(page, [of["host:28@to"], of["host:8@from"]]);
  // Each flagged with what would happen and what cures it, before any proof.
  assert.match(await page.locator("main").innerText(), /start feed[\s\S]*(instead|part them|move)/i);
  assert.match(await prove(page), /Cranks no more where it did/);
  await press(page, "text=Put it right");
  await join(page, [of["host:7@to"], of["host:8@from"]]);
  await join(page, [of["host:28@to"], of["host:29@from"]]);
  await join(page, [of["host:31@from"], of["host:30@to"]]);
  assert.match(await prove(page), /Cranks, stops and charges as it did/);
  assert.deepEqual(page.complaints, []);
});

// By hand: 20 AWG is 0.52 mm² and bears ten amps, 8.5 in an engine space; so does 0.75 mm². The carrier's regulator brings some fourteen.
test("a spare piece of thin loom laid into a charge lead is too thin for it", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await begin(page, app, "Charge lead chewed", "ridge-carrier-4", "orchard-tractor-4");
  await keep(page, { comes: ["SP2"], cuts: "75" });
  const of = await flags(page);
  await join(page, [of["host:75a@to"], of["donor:10@to"]]);
  await join(page, [of["host:75b@from"], of["donor:11@to"]]);
  assert.match(await prove(page), /0\.75 mm², carries 1\d(\.\d)? A and is too thin for that[\s\S]* at least/);
  await press(page, ".stages a:text-is('Size')");
  assert.match(await page.locator("#loads-title").innerText(), /too thin/i);
  await press(page, ".stages a:text-is('Marry')");
  await join(page, [of["host:75a@to"], of["host:75b@from"]]);
  assert.match(await prove(page), /Cranks, stops and charges as it did/);
  assert.deepEqual(page.complaints, []);
});
