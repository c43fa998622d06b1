// Complaints of several circuits, hunted in the browser as their electrician would, to what is hidden in the machine.
import assert from "node:assert/strict";
import { after, before, test } from "node:test";
import { App, launch, pageOf } from "./harness.mjs";

let app;
let browser;

before(async () => {
  app = await App.start("--empty");
  browser = await launch();
});
after(async () => {
  await browser?.close();
  await app?.stop();
});

/**
 * Starts a job from the bench and answers every test as the machine with its hidden fault would, until a verdict stands.
 * `spark(setUp)` says what a spark tester shows, by hand: 0, 1 or 2.
 */
async function hunt({ machine, complaint, says, fault, spark }) {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  const file = await app.api(`/machines/${machine}`);
  await page.goto(app.url);
  await page.locator("summary", { hasText: file.name }).click();
  await page.locator("details[open] select[name=duty]").selectOption({ label: complaint });
  await Promise.all([page.waitForURL(/complaint/), page.locator("details[open] button:text-is('Start')").click()]);
  await page.locator(".choice", { hasText: says }).first().click();
  await page.fill("input[name=Failed]", "3");
  await page.fill("input[name=Tried]", "3");
  await Promise.all([page.waitForURL(/jobs\/T-\d+$/), page.click("text=Write it down")]);
  const tag = new URL(page.url()).pathname.split("/")[2];
  const { conditions } = await app.api(`/jobs/${tag}`);
  const engine = file.engines?.[0];
  const rpm = { rest: 0, crank: engine?.crankRpm, idle: engine?.idleRpm, work: engine?.workRpm };
  const asked = [];
  for (let tests = 0; tests < 15 && !(await page.locator("text=Take this verdict").count()); tests++) {
    const form = await page.$eval("#test-form", (f) => Object.fromEntries(new FormData(f)));
    const condition = conditions[Number(form.Condition)];
    asked.push(`${condition.quantity}: ${await page.locator("#test-title").innerText()}`);
    if (condition.quantity === "spark") {
      await Promise.all([page.waitForNavigation(), page.click(`.sparks button[value='${spark(condition.words)}']`)]);
      continue;
    }
    if (condition.quantity === "amps") {
      // In series at the negative post: its cable off, red on the cable, black on the post.
      const cable = file.wires.find((w) => w.from.at.endsWith(".-") || w.to.at.endsWith(".-"));
      const end = `${cable.id}@${cable.from.at.endsWith(".-") ? "from" : "to"}`;
      const post = cable.from.at.endsWith(".-") ? cable.from.at : cable.to.at;
      const amps = await app.api(`/machines/${machine}/measure`, { setting: condition.setting, off: [...condition.off, end], function: "dcAmps", red: end, black: post, faults: [{ id: fault }] });
      await page.fill("#typed", amps.value === null ? "OL" : amps.value.toFixed(3));
      await Promise.all([page.waitForNavigation(), page.press("#typed", "Enter")]);
      continue;
    }
    const after = Number(form.Condition) === 0 || condition.off.length > 0;
    const shown = await app.api(`/machines/${machine}/measure`, {
      before: after ? [] : [conditions[0].setting, {}],
      setting: condition.setting,
      speeds: engine ? { [engine.id]: rpm[condition.speed] } : {},
      off: condition.off,
      batteryDisconnected: condition.quantity !== "volts",
      function: { volts: "dcVolts", ohms: "ohms", diode: "diode" }[condition.quantity],
      red: form.Red,
      black: form.Black,
      faults: [{ id: fault }],
    });
    await page.fill("#typed", shown.overRange ? "OL" : shown.jumps ? "0" : shown.value.toFixed(condition.quantity === "ohms" ? 1 : 2));
    await Promise.all([page.waitForNavigation(), page.press("#typed", "Enter")]);
    assert.equal(await page.locator(".error").count(), 0);
  }
  assert.deepEqual(page.complaints, []);
  return { page, asked, verdict: await page.locator(".verdict").first().innerText() };
}

test("a walk-behind that will not stop: its brake switch no longer closes, found by ohms on the stop wire", async () => {
  const { page, asked, verdict } = await hunt({
    machine: "hedgerow-mower-2",
    complaint: "Runs on with lever let go (magneto coil)",
    says: "Runs on",
    fault: "brake-switch/stop/open",
  });
  assert.match(verdict, /stop switch at the flywheel brake/i);
  assert.ok(asked.every((a) => a.startsWith("ohms:")), asked.join("\n"));
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

test("a quad that clicks and does not crank: the contacts of its start relay", async () => {
  const { verdict } = await hunt({ machine: "hill-quad-2", complaint: "Does not crank", says: "One click", fault: "solenoid/contact-open" });
  assert.match(verdict, /start relay/i);
});

test("a scooter that does nothing at START: its front brake-lever switch no longer reaches", async () => {
  const { verdict } = await hunt({ machine: "quay-scooter-3", complaint: "Does not crank", says: "Nothing at all", fault: "front-lever/made/open" });
  assert.match(verdict, /front brake lever switch/i);
});
