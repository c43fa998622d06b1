// Part tests in the browser: by keyboard alone, on the phone, and as evidence in an open job.
import assert from "node:assert/strict";
import { test } from "node:test";
import { pageOf } from "./harness.mjs";
import { app, browser, serveShared } from "./served.mjs";

serveShared();

const so = (page) => page.locator("[aria-labelledby=so-far] .verdict").innerText();

/** Enters a figure at the reading on the card, by keys alone. */
async function enter(page, figure) {
  await page.waitForSelector("#typed:focus");
  await page.keyboard.type(figure);
  await Promise.all([page.waitForNavigation(), page.keyboard.press("Enter")]);
}

test("a relay is judged by keyboard alone, in the order that it asks", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/part-tests/new?kind=relay`);
  await page.focus("text=Begin");
  await Promise.all([page.waitForNavigation(), page.keyboard.press("Enter")]);

  // By hand: a coil of 85 ohm, 30 to 87 open and then closed, 30 to 87a the other way round, but for the made contact.
  const figures = { coil: "85", "rest-30-87": "OL", "rest-30-87a": "0.2", "fed-30-87": "OL", "fed-30-87a": "OL" };
  for (let k = 0; k < 5 && (await page.locator("#typed").count()) > 0; k++) {
    const at = new URL(await page.locator(".enter form").first().evaluate((f) => f.action)).searchParams.get("at");
    await enter(page, figures[at]);
  }
  assert.match(await so(page), /contact burnt away|armature sticks/i);
  assert.deepEqual(page.complaints, []);
});

test("a stator is judged on the phone, in any order, and a slip is taken back", async () => {
  const page = await pageOf(browser, app, { width: 390, height: 844 });
  await page.goto(`${app.url}/part-tests/new?kind=stator-3`);
  await page.fill("input[name='Figures[ohms]']", "2");
  await page.click("text=Begin");
  await page.click("text=Ohms, b to core");
  await page.fill("#typed", "0.9");
  await page.click("text=Enter");
  assert.match(await so(page), /core/i);
  await page.click("text=Undo");
  await page.waitForLoadState();
  assert.doesNotMatch(await so(page), /core/i);
  for (const [reading, figure] of [["Ohms, a to b", "4.2"], ["Ohms, b to c", "3.4"], ["Ohms, c to a", "3.4"]]) {
    await page.click(`a:text-is('${reading}'), strong:text-is('${reading}')`);
    await page.fill("#typed", figure);
    await page.click("text=Enter");
    await page.waitForLoadState();
  }
  // Leads of 0.2 ohm are in every pair: legs of 2.0, 2.0 and 1.2.
  const sums = await page.locator(".sums").innerText();
  assert.match(sums, /leg c[^\n]*1\.2/);
  assert.equal(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth), true);
});

test("a figure that is none is refused where it stands, and kept", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/part-tests/new?kind=lamp`);
  await page.fill("input[name='Figures[watts]']", "9000");
  await page.click("text=Begin");
  assert.match(await page.locator("[role=alert]").innerText(), /watts.*0\.2 to 200/);
  assert.equal(await page.inputValue("input[name='Figures[watts]']"), "9000");
  await page.fill("input[name='Figures[watts]']", "");
  await page.click("text=Begin");
  await page.fill("#typed", "some");
  await page.click("text=Enter");
  assert.match(await page.locator("[role=alert]").innerText(), /“some” is not a reading/);
  assert.equal(await page.inputValue("#typed"), "some");
});

test("what a sheet finds of a suspect decides an open job", async () => {
  const job = await app.api("/jobs", { machine: "orchard-tractor-4", duty: "cranks" });
  await app.api(`/jobs/${job.tag}/complaint`, { heard: "nothing", failed: 3, tried: 3 });
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/jobs/${job.tag}`);
  const solenoid = page.locator(".suspect-list li", { hasText: /solenoid/ }).first();
  const before = await page.locator(".suspect-list").innerText();
  assert.match(before, /solenoid/);
  await solenoid.getByText("test it by itself").click();
  await page.click("text=Ohms of the coil");
  await page.locator(".enter button:text-is('OL')").click();
  await page.waitForLoadState();
  assert.match(await so(page), /coil open/i);
  await page.click(`text=Save to job ${job.tag}`);
  await page.waitForURL(`${app.url}/jobs/${job.tag}`);
  assert.match(await page.locator(".suspect-list li").first().innerText(), /solenoid/);
  assert.match(await page.locator(".suspects").innerText(), /Tested by themselves[\s\S]*coil open/i);
  assert.deepEqual(page.complaints, []);
});

// By hand: amps out of the battery do not say whose they are, and the alternator's lead cannot be had off. Lying on the bench its diodes, which pass 1.4 A
// of 12.6 V backwards, are 9 ohms from B+ to case; sound ones are open.
test("what is dear and cannot be freed on the machine is no verdict before its own sheet is", async () => {
  const job = await app.api("/jobs", { machine: "terrace-dumper-1", duty: "holds-battery" });
  await app.api(`/jobs/${job.tag}/complaint`, { heard: "nothing", failed: 3, tried: 3 });
  const { conditions } = await app.api(`/jobs/${job.tag}`);
  const rest = conditions.findIndex((c) => c.quantity === "volts" && c.words === "everything at rest");
  for (const [red, black, reading] of [["timer.15", "timer.31", "0.00"], ["heat-relay.86", "heat-relay.85", "0.00"], ["stop-relay.30", "stop-relay.87", "12.4"]]) {
    await app.api(`/jobs/${job.tag}/readings`, { condition: rest, red, black, reading });
  }
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  const address = `${app.url}/jobs/${job.tag}`;
  await page.goto(address);
  for (let k = 0; k < 4 && !(await page.locator("h2:text-is('Test it by itself')").count()); k++) {
    const isFreed = / off the alternator/.test(await page.locator("#test-title").innerText());
    if (!isFreed) await page.fill("#typed", "1.4");
    await Promise.all([page.waitForNavigation(), isFreed ? page.click("button:text-is('Not sure')") : page.press("#typed", "Enter")]);
  }
  assert.match(await page.locator("section.test .verdict").innerText(), /^alternator/i);
  assert.equal(await page.locator("text=Take this verdict").count(), 0);
  const { testByItself, verdict } = await app.api(`/jobs/${job.tag}/next-test`);
  assert.equal(verdict, null);
  assert.equal(testByItself.part, "alternator");

  await Promise.all([page.waitForURL(/part-tests/), page.click("button:text-is('Test the alternator')")]);
  for (let k = 0; k < 2; k++) {
    await page.click("a:text-is('Ohms, B+ to case'), strong:text-is('Ohms, B+ to case')");
    await page.fill("#typed", "9");
    await Promise.all([page.waitForNavigation(), page.press("#typed", "Enter")]);
  }
  await Promise.all([page.waitForURL(address), page.click(`text=Save to job ${job.tag}`)]);
  assert.match(await page.locator("section.test .verdict").innerText(), /^Replace: alternator/);
  await Promise.all([page.waitForURL(/repair/), page.click("text=Take this verdict")]);
  assert.deepEqual(page.complaints, []);
});

test("an unknown key switch is named on the phone, beep by beep", async () => {
  const page = await pageOf(browser, app, { width: 390, height: 844 });
  await page.goto(`${app.url}/part-tests`);
  await page.fill("input[name=posts]", "9");
  await page.click("text=Which post is which?");
  assert.match(await page.locator("[role=alert]").innerText(), /3 to 8/);
  assert.equal(await page.inputValue("input[name=posts]"), "9");
  await page.fill("input[name=posts]", "5");
  await page.click("text=Which post is which?");
  await page.waitForURL(/switch/);

  // By hand: A ground, B feed, C start, D kill, E run; kill to ground at 1, feed to run at 2, all three at 3.
  const joined = [["A-D"], ["B-E"], ["B-E", "B-C", "C-E"]];
  for (let k = 0; k < 25 && (await page.locator("button:text-is('Beeps')").count()) > 0; k++) {
    const asked = (await page.locator("#next-title").innerText()).match(/Key at (\d).*post (\w) beep to post (\w)/);
    const beeps = joined[Number(asked[1]) - 1].includes(`${asked[2]}-${asked[3]}`);
    await page.click(`button:text-is('${beeps ? "Beeps" : "Silent"}')`);
    await page.waitForLoadState();
  }
  const likely = await page.locator("[aria-labelledby=likely-title] .list").first().innerText();
  assert.match(likely, /C\s+start, S (over )?9\d %/);
  assert.match(likely, /A\s+(kill|ground)/);
  assert.match(likely, /B\s+(feed|run)/);
  assert.deepEqual(page.complaints, []);
});

// By hand: three legs of 0.6 Ω in star; a winding of 1.2 Ω to the core, tapped at 0.4; a ground lead. The meter's own leads add 0.2.
test("leads that nobody knows are told apart on the phone, by keyboard alone", async () => {
  const page = await pageOf(browser, app, { width: 390, height: 844 });
  const from = { 3: 0.4, 4: 1.2, 5: 0, 6: 0 };
  await page.goto(`${app.url}/part-tests`);
  await page.fill("[name=leads]", "yellow, yellow, 7");
  await Promise.all([page.waitForNavigation(), page.press("[name=leads]", "Enter")]);
  assert.match(await page.locator("[role=alert]").innerText(), /“7” is no colour/);
  assert.equal(await page.inputValue("[name=leads]"), "yellow, yellow, 7");
  await page.fill("[name=leads]", "yellow, yellow, yellow, white, blue/red, black");
  await Promise.all([page.waitForURL(/leads$/), page.press("[name=leads]", "Enter")]);
  let asked = 0;
  for (; asked < 21 && (await page.locator("[name=Figure]").count()); asked++) {
    const [one, other] = [Number(await page.inputValue("[name=One]")), Number(await page.inputValue("[name=Other]"))];
    const ohms = other < 3 ? 0.6 : one > 2 ? Math.abs(from[one] - from[other]) : null;
    await page.waitForSelector("[name=Figure]:focus");
    await page.keyboard.type(ohms === null ? "OL" : (ohms + 0.2).toFixed(2));
    await Promise.all([page.waitForNavigation(), page.keyboard.press("Enter")]);
  }
  const told = await page.locator("[aria-labelledby=known-title] .checks").innerText();
  assert.match(told, /1 yellow, 2 yellow, 3 yellow: three like legs/);
  assert.match(told, /tapped at 4 white/);
  assert.match(told, /6 black and core are one copper/);
  assert.ok(asked < 16, `${asked} of 21 pairs`);
  assert.equal(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth), true);
  assert.deepEqual(page.complaints, []);
});

// By hand: three alike leads clear of metal are three phases; 4 V left of 61 is a winding that is shorted, so shunt.
test("a regulator that nobody knows is told on the phone, by keyboard alone, and its sheet is begun", async () => {
  const page = await pageOf(browser, app, { width: 390, height: 844 });
  await page.goto(`${app.url}/part-tests`);
  await page.focus("text=Which regulator is it?");
  await Promise.all([page.waitForURL(/regulator-kind$/), page.keyboard.press("Enter")]);
  assert.match(await page.locator("[aria-labelledby=kinds-title]").innerText(), /Not told yet[^]*Count the leads/);
  await page.focus("[name=Leads]");
  await page.keyboard.type("three");
  for (const figure of ["OL", "61", "4 volts"]) {
    await page.keyboard.press("Tab");
    await page.keyboard.type(figure);
  }
  await Promise.all([page.waitForNavigation(), page.keyboard.press("Enter")]);
  assert.match(await page.locator("[role=alert]").innerText(), /^The same, plugged: “4 volts”/);
  assert.equal(await page.inputValue("[name=Plugged]"), "4 volts");
  await page.fill("[name=Plugged]", "4");
  await Promise.all([page.waitForNavigation(), page.press("[name=Plugged]", "Enter")]);
  assert.match(await page.locator("[aria-labelledby=kinds-title]").innerText(), /three phases, shunt, 9\d %[^]*shorts the winding/);
  assert.equal(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth), true);
  await page.focus("text=Begin its sheet");
  await Promise.all([page.waitForURL(/new\?kind=regulator-3&by=regulator$/), page.keyboard.press("Enter")]);
  assert.deepEqual(page.complaints, []);
});

// By hand: 0.12 V of 0.2 allowed passes, 0.31 does not, and 0.2 read to a hundredth is nearer than the meter tells.
test("points of one's own are judged by one's own figures, by keyboard on the phone", async () => {
  const page = await pageOf(browser, app, { width: 390, height: 844 });
  await page.goto(`${app.url}/part-tests`);
  await Promise.all([page.waitForNavigation(), page.press("[name=called]", "Enter")]);
  assert.match(await page.locator("[role=alert]").innerText(), /1 to 60 characters/);
  await page.fill("[name=called]", "drops of the starter cable");
  await Promise.all([page.waitForURL(/points$/), page.press("[name=called]", "Enter")]);
  const place = async (words, wanted) => {
    await page.fill("[name=Words]", words);
    await page.fill("[name=Wanted]", wanted);
    await Promise.all([page.waitForNavigation(), page.press("[name=Wanted]", "Enter")]);
  };
  await place("battery + to stud, cranking", "some");
  assert.match(await page.locator("[role=alert]").innerText(), /“some” is no target/);
  assert.equal(await page.inputValue("[name=Words]"), "battery + to stud, cranking");
  await place("battery + to stud, cranking", "at most 0.2");
  await place("body to battery −, cranking", "at most 0.2");
  await place("over the solenoid", "at most 0.2");
  for (const [at, figure] of [["battery + to stud, cranking", "0.12"], ["body to battery −, cranking", "0.31"], ["over the solenoid", "0.20"]]) {
    await page.fill(`[aria-label='Reading, ${at}']`, figure);
    await Promise.all([page.waitForNavigation(), page.press(`[aria-label='Reading, ${at}']`, "Enter")]);
  }
  const rows = await page.locator(".points tr").allInnerTexts();
  assert.match(rows[1], /● as it should/);
  assert.match(rows[2], /◆ not as it should/);
  assert.match(rows[3], /too near the limit/);
  const csv = await (await fetch(`${page.url()}?handler=Csv`)).text();
  assert.match(csv, /body to battery −, cranking.*,Volts,at most 0.2 V,0.31,/);
  assert.deepEqual(page.complaints, []);
});

test("every sheet is begun and read once by keyboard alone", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  await page.goto(`${app.url}/part-tests`);
  const links = await page.locator(".parts-list a").evaluateAll((all) => all.map((a) => a.getAttribute("href")));
  const sheets = new Map(links.map((href) => [new URL(href, app.url).searchParams.get("by"), href]));
  assert.ok(sheets.size >= 21, `${sheets.size} sheets`);
  for (const [sheet, href] of sheets) {
    await page.goto(`${app.url}${href}`);
    await page.focus("text=Begin");
    await Promise.all([page.waitForNavigation(), page.keyboard.press("Enter")]);
    const first = page.locator(".enter");
    if ((await first.locator("#typed").count()) > 0) {
      const asked = await page.locator(".sheet-readings .current strong").innerText();
      await enter(page, /^Volts/.test(asked) ? "12.5" : "0.5");
    } else {
      await first.locator("button").first().focus();
      await Promise.all([page.waitForNavigation(), page.keyboard.press("Enter")]);
    }
    assert.equal(await page.locator(".standing").innerText().then((t) => t.startsWith("1 of")), true, sheet);
    assert.notEqual(await so(page), "Nothing read yet", sheet);
    assert.ok((await page.locator(".sheet-looks li").count()) >= 2, sheet);
  }
  assert.deepEqual(page.complaints, []);
});

test("what is looked for moves the belief, and what a part read before stands beside", async () => {
  const page = await pageOf(browser, app, { width: 1280, height: 800 });
  const begin = async () => {
    await page.goto(`${app.url}/part-tests?machine=ridge-twin-1`);
    await page.locator(".parts-list button", { hasText: "Three-phase stator" }).first().click();
    await page.waitForURL(/P-/);
  };
  await begin();
  await page.click("text=Ohms, a to b");
  await page.fill("#typed", "0.7");
  await page.click("text=Enter");
  await begin();
  const before = await page.locator("[aria-labelledby=so-far]").innerText();
  assert.match(before, /What it read before[\s\S]*0\.7/i);
  await page.click("text=Ohms, b to c");
  await page.fill("#typed", "0.7");
  await page.click("text=Enter");
  const plain = Number((await page.locator("[aria-labelledby=so-far]").innerText()).match(/Sound: (\d+)/)[1]);
  await page.click("[aria-label^='Seen: varnish']");
  await page.waitForLoadState();
  const seen = Number((await page.locator("[aria-labelledby=so-far]").innerText()).match(/Sound: (\d+)/)[1]);
  assert.ok(seen < plain, `${seen} < ${plain}`);
  assert.deepEqual(page.complaints, []);
});

test("a survey of a machine's grounds names the strap that is bad", async () => {
  const page = await pageOf(browser, app, { width: 390, height: 844 });
  await page.goto(`${app.url}/part-tests?machine=orchard-tractor-4`);
  await page.click("text=Survey its grounds");
  await page.waitForURL(/grounds/);
  await page.fill("[aria-label='Millivolts at frame']", "lots");
  await page.click("[aria-label='Enter: frame']");
  assert.match(await page.locator("[role=alert]").innerText(), /frame.*lots/);
  assert.equal(await page.inputValue("[aria-label='Millivolts at frame']"), "lots");

  // By hand: 88 A come home through the strap; 0.7 V at the block and none too many at the frame is about 7 milliohms.
  for (const [point, millivolts] of [["frame", "47"], ["engine block", "700"], ["starter body", "720"]]) {
    await page.fill(`[aria-label='Millivolts at ${point}']`, millivolts);
    await page.click(`[aria-label='Enter: ${point}']`);
    await page.waitForLoadState();
  }
  const worst = await page.locator("[aria-labelledby=worst-title]").innerText();
  assert.match(worst, /strap bolt/);
  assert.match(worst, /About [5-9](\.\d+)? mΩ too many/);
  assert.equal(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth), true);
  assert.deepEqual(page.complaints, []);
});
