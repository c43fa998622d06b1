// Starts the built application on a record of its own, and a browser that may talk to nothing else.
import { spawn } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { chromium } from "playwright-core";

export const program = fileURLToPath(new URL("../../src/Pritchel.Web/bin/Release/net10.0/Pritchel.Web.dll", import.meta.url));

// One for all starts of a run: what one has worked out, none works out again.
const tables = process.env.PRITCHEL_TEST_TABLES ?? (await mkdtemp(join(tmpdir(), "pritchel-tables-")));

/** A port nobody listens on just now. */
function freePort() {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once("error", reject);
    probe.listen(0, "127.0.0.1", () => {
      const { port } = probe.address();
      probe.close(() => resolve(port));
    });
  });
}

/** The application, running. `kill` ends it without warning; `restart` brings it back on the same record. */
export class App {
  static async start(...options) {
    const app = new App();
    app.options = options;
    app.tables = tables;
    app.folder = await mkdtemp(join(tmpdir(), "pritchel-browser-"));
    app.url = `http://127.0.0.1:${await freePort()}`;
    await app.restart();
    return app;
  }

  /** The one that a whole run shares: nobody ends it before the run does. */
  static at({ url, folder }) {
    return Object.assign(new App(), { url, folder, stop: async () => {} });
  }

  get command() {
    return [program, "--urls", this.url, "--data", this.folder, "--no-ahead", "--tables-at", tables, ...this.options];
  }

  async restart() {
    // As ./start does.
    const env = { ...process.env, MALLOC_ARENA_MAX: "2", DOTNET_GCgen0size: "2000000" };
    this.process = spawn("dotnet", this.command, { stdio: ["ignore", "ignore", "inherit"], env });
    for (let tries = 0; tries < 480; tries++) {
      if (this.process.exitCode !== null) throw new Error(`the application stopped with ${this.process.exitCode}`);
      const answered = await fetch(this.url).then((r) => r.ok, () => false);
      if (answered) return;
      await new Promise((r) => setTimeout(r, 250));
    }
    throw new Error("the application did not answer within two minutes");
  }

  async kill() {
    const ended = new Promise((r) => this.process.once("exit", r));
    this.process.kill("SIGKILL");
    await ended;
  }

  async stop() {
    if (this.process.exitCode === null && this.process.signalCode === null) await this.kill();
    await rm(this.folder, { recursive: true, force: true });
  }

  async api(path, body) {
    const response = await fetch(`${this.url}/api/v1${path}`, body && { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) });
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`);
    return response.json();
  }
}

// Without a sandbox of its own, for containers.
const chromiumOptions = {
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
};

export const launch = () => chromium.launch(chromiumOptions);

export const launchServer = () => chromium.launchServer(chromiumOptions);

export const connect = (endpoint) => chromium.connect(endpoint);

/** A page that fails the test when anything leaves the application's own address or a script breaks. */
export async function pageOf(browser, app, viewport, extra = {}) {
  const context = await browser.newContext({ viewport, ...extra });
  const page = await context.newPage();
  // A charging complaint follows waves for every fault before its first test: seconds here, minutes on a laden machine.
  page.setDefaultTimeout(240_000);
  page.complaints = [];
  page.on("request", (r) => r.url().startsWith(app.url) || r.url().startsWith("data:") || page.complaints.push(`asked for ${r.url()}`));
  page.on("pageerror", (e) => page.complaints.push(`script: ${e.message}`));
  page.on("console", (m) => m.type() === "error" && page.complaints.push(`console: ${m.text()}`));
  return page;
}

/** What is pressed for a continuity range over what an ohmmeter shows: it beeps under 40 Ω. */
export const beeps = (shown) => (!shown.overRange && shown.value < 40 ? "2" : "0");

/** The tractor with a fault planted, answering where the page says the probes go. */
export async function answer(app, page, faultId) {
  const asked = await page.$eval("#test-form", (form) => Object.fromEntries(new FormData(form)));
  const tag = new URL(page.url()).pathname.split("/")[2];
  const job = await app.api(`/jobs/${tag}`);
  const { setting, quantity, off } = job.conditions[Number(asked.Condition)];
  const shown = await app.api("/machines/orchard-tractor-4/measure", {
    before: quantity === "volts" ? [{ key: "START", brake: "down" }, {}] : [],
    setting,
    off,
    batteryDisconnected: quantity === "ohms",
    function: quantity === "volts" ? "dcVolts" : quantity,
    red: asked.Red,
    black: asked.Black,
    faults: [{ id: faultId }],
  });
  if (shown.overRange) return "OL";
  return shown.jumps ? "jumps" : shown.value.toFixed(2);
}
