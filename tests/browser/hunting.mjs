// Complaints told on the bench and hunted in the browser, answered as the machine with its hidden fault would.
import assert from "node:assert/strict";
import { pageOf, beeps } from "./harness.mjs";

/**
 * Starts a job from the bench and writes its complaint down: `stood` are positions of controls that were otherwise when it
 * happened, `engine` how fast it turned then, `bridged` contacts found bridged, `lamps` how they looked, `renewed` what was
 * renewed and did nothing, `onLeads` how it did on jump leads.
 */
export async function complain({ app, browser }, { machine, complaint, says, stood = {}, engine, failed = 3, tried = 3, bridged = [], lamps = {}, renewed, onLeads }) {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  const file = await app.api(`/machines/${machine}`);
  await page.goto(app.url);
  await page.locator("summary", { hasText: file.name }).click();
  await page.locator("details[open] select[name=duty]").selectOption({ label: complaint });
  await Promise.all([page.waitForURL(/complaint/), page.locator("details[open] button:text-is('Start')").click()]);
  await page.locator(".choice", { hasText: says }).first().click();
  if (engine || Object.keys(stood).length > 0) await page.click(".stood summary");
  if (engine) await page.selectOption("select[name=Speed]", { label: engine });
  for (const [control, position] of Object.entries(stood)) await page.selectOption(`select[name='Stood[${control}]']`, position);
  for (const [lamp, look] of Object.entries(lamps)) await page.selectOption(`select[aria-label='${lamp}']`, look);
  if (renewed) await page.locator("select[name=Renewed]").first().selectOption(renewed);
  if (onLeads) await page.selectOption("select[name=OnLeads]", { label: onLeads });
  for (const contact of bridged) await page.check(`input[name=Bridged][value='${contact}']`);
  await page.fill("input[name=Failed]", `${failed}`);
  await page.fill("input[name=Tried]", `${tried}`);
  await Promise.all([page.waitForURL(/jobs\/T-\d+$/), page.click("text=Write it down")]);
  return { page, file };
}

/** A motorcycle whose lamps take what its stator, a leg short, gives at idle. */
export const chargesLowWithLampsOn = { machine: "ridge-twin-1", complaint: "Battery is not charged", says: "They rise, but not enough", stood: { lights: "on" }, engine: "at idle" };

/**
 * Answers every test of a complaint as the machine with its hidden fault would, until a verdict stands. `spark(setUp)` says
 * what a spark tester shows, or how it runs with something off, by hand: 0, 1 or 2. `stirs(place, how)` says whether the fault comes or goes as a place is moved,
 * warmed or wetted, by hand.
 */
export async function hunt(at, { machine, fault, severity, from, spark, stirs, ...told }) {
  const { page, file } = await complain(at, { machine, ...told });
  return pursue(at, page, file, { machine, faults: fault ? [{ id: fault, severity }] : [], from, spark, stirs });
}

/** Answers from where a page stands, as the machine with those faults would. */
export async function pursue({ app }, page, file, { machine, faults, from, spark, stirs = () => false }) {
  const tag = new URL(page.url()).pathname.split("/")[2];
  const { conditions } = await app.api(`/jobs/${tag}`);
  const engine = file.engines?.[0];
  const rpm = { rest: 0, crank: engine?.crankRpm, idle: engine?.idleRpm, work: engine?.workRpm };
  const asked = [];
  for (let tests = 0; tests < 15 && !(await page.locator("text=Take this verdict").count()); tests++) {
    const form = await page.$eval("#test-form", (f) => Object.fromEntries(new FormData(f)));
    if (form.Stirring) {
      const [place, how] = form.Stirring.split(";");
      asked.push(`${how.toLowerCase()}: ${await page.locator("#test-title").innerText()}`);
      await Promise.all([page.waitForNavigation(), page.click(`button[name=Changed][value=${stirs(place, how)}]`)]);
      continue;
    }
    const condition = conditions[Number(form.Condition)];
    asked.push(`${condition.quantity}: ${await page.locator("#test-title").innerText()} [${condition.words}]`);
    if (["spark", "runs"].includes(condition.quantity)) {
      await Promise.all([page.waitForNavigation(), page.click(`.seen button[value='${spark(condition.words)}']`)]);
      continue;
    }
    if (["action", "glow"].includes(condition.quantity)) {
      // Not everyone bridges: passed over, and the next best is asked.
      await Promise.all([page.waitForNavigation(), page.click("button:text-is('Not sure')")]);
      continue;
    }
    if (condition.quantity === "amps") {
      // In series at the negative post: its cable off, red on the cable, black on the post.
      const cable = file.wires.find((w) => w.from.at.endsWith(".-") || w.to.at.endsWith(".-"));
      const end = `${cable.id}@${cable.from.at.endsWith(".-") ? "from" : "to"}`;
      const post = cable.from.at.endsWith(".-") ? cable.from.at : cable.to.at;
      const amps = await app.api(`/machines/${machine}/measure`, { setting: condition.setting, off: [...condition.off, end], function: "dcAmps", red: end, black: post, faults });
      await page.fill("#typed", amps.value === null ? "OL" : amps.value.toFixed(3));
      await Promise.all([page.waitForNavigation(), page.press("#typed", "Enter")]);
      continue;
    }
    const after = Number(form.Condition) === 0 || condition.off.length > 0;
    const shown = await app.api(`/machines/${machine}/measure`, {
      before: from && Number(form.Condition) === 0 ? [from] : after ? [] : [...(from ? [from] : []), conditions[0].setting, {}],
      setting: condition.setting,
      speeds: engine ? { [engine.id]: rpm[condition.speed] } : {},
      off: condition.off,
      batteryDisconnected: ["ohms", "diode", "beep"].includes(condition.quantity),
      function: { volts: "dcVolts", shows: "dcVolts", ohms: "ohms", beep: "ohms", diode: "diode", acVolts: "acVolts", peakVolts: "peakVolts" }[condition.quantity],
      red: form.Red,
      black: form.Black,
      faults,
    });
    if (condition.quantity === "shows") {
      // What is over the load's own terminals is what lights it, or turns it.
      const volts = Math.abs(shown.value ?? 0);
      await Promise.all([page.waitForNavigation(), page.click(`.seen button[value='${volts > 7 ? 2 : volts > 3 ? 1 : 0}']`)]);
      continue;
    }
    if (condition.quantity === "beep") {
      await Promise.all([page.waitForNavigation(), page.click(`.seen button[value='${beeps(shown)}']`)]);
      continue;
    }
    if (shown.jumps) {
      await Promise.all([page.waitForNavigation(), page.click("button:text-is('It jumps')")]);
      continue;
    }
    await page.fill("#typed", shown.overRange ? "OL" : shown.value.toFixed(2));
    await Promise.all([page.waitForNavigation(), page.press("#typed", "Enter")]);
    assert.equal(await page.locator(".error").count(), 0);
  }
  assert.deepEqual(page.complaints, []);
  assert.ok(await page.locator(".verdict").count(), `no verdict after:\n${asked.join("\n")}`);
  // The repair on one line, where in it the fault most likely is on the next.
  const verdict = (await page.locator(".verdict, .likeliest").allInnerTexts()).join("\n");
  if (process.env.SHOW) console.log([...asked, verdict].join("\n"));
  return { page, asked, verdict };
}
