// Ends the application without warning, again and again, while four clients write; then looks whether anything that was
// acknowledged is gone. One kill in five falls into the first three seconds of a start.
//   node bench/trials/kills.mjs [how many] [seed]
import { spawn } from "node:child_process";
import { App } from "../../tests/browser/harness.mjs";

const wanted = Number(process.argv[2] ?? 1000);
const app = await App.start("--empty");
const sleep = (ms) => new Promise((r) => setTimeout(r, ms));
const random = ((state) => () => (state = (state * 48271) % 2147483647) / 2147483647)(Number(process.argv[3] ?? 20261129));

/** What was acknowledged: entries of each job, readings of each part test, steps of each draft, bytes of pictures. */
const kept = { jobs: new Map(), tests: new Map(), drafts: new Map(), pictures: [] };
let stopping = false;
let writes = 0;
const unanswered = { count: 0 };
const refusals = new Map();

async function send(path, body) {
  const answer = await fetch(`${app.url}/api/v1${path}`, { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body), signal: AbortSignal.timeout(30_000) });
  const text = await answer.text();
  if (!answer.ok) {
    const why = `${path.replace(/\d+/g, "N")} ${answer.status}`;
    refusals.set(why, (refusals.get(why) ?? 0) + 1);
    return null;
  }
  writes++;
  return JSON.parse(text);
}

const steps = {
  async job(mine) {
    if (!mine.job || mine.entries > 40) {
      const job = await send("/jobs", { machine: "hedgerow-mower-2", duty: "sparks-magneto" });
      if (!job) return;
      [mine.job, mine.entries] = [job.tag, 1];
      kept.jobs.set(mine.job, 1);
    }
    if (await send(`/jobs/${mine.job}/help`, { alone: mine.entries % 2 === 0 })) kept.jobs.set(mine.job, ++mine.entries);
    else mine.job = null;
  },
  async test(mine) {
    if (!mine.test || mine.taken > 30) {
      const test = await send("/part-tests", { machine: "hedgerow-mower-2", part: "magneto" });
      if (!test) return;
      [mine.test, mine.taken] = [test.tag, 0];
      kept.tests.set(mine.test, 0);
    }
    mine.reading ??= (await (await fetch(`${app.url}/api/v1/part-tests/${mine.test}`)).json()).readings[0].id;
    if (await send(`/part-tests/${mine.test}/readings`, { reading: mine.reading, figure: "0.8" })) kept.tests.set(mine.test, ++mine.taken);
    else mine.test = null;
  },
};

/** One of a form's pages sent as a browser sends it. */
async function post(page, path, form) {
  const shown = await fetch(app.url + page, { signal: AbortSignal.timeout(30_000) });
  const cookie = shown.headers.getSetCookie().map((c) => c.split(";")[0]).join("; ");
  const token = /name="__RequestVerificationToken" type="hidden" value="([^"]+)"/.exec(await shown.text())?.[1];
  form.append("__RequestVerificationToken", token);
  return fetch(app.url + path, { method: "POST", headers: { cookie }, body: form, redirect: "manual", signal: AbortSignal.timeout(30_000) });
}

// One red pixel, as any camera might send it.
const pixel = Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAIAAACQd1PeAAAADElEQVR4nGP4z8AAAAMBAQDJ/pLvAAAAAElFTkSuQmCC", "base64");
steps.picture = async () => {
  const form = new FormData();
  const words = `mark ${kept.pictures.length} ${Math.floor(random() * 1e9)}`;
  form.append("Words", words);
  form.append("file", new Blob([pixel], { type: "image/png" }), "a.png");
  const answer = await post("/machines/hedgerow-mower-2/pictures", "/machines/hedgerow-mower-2/pictures", form);
  if (answer.status === 302) {
    writes++;
    kept.pictures.push(words);
  } else refusals.set(`picture ${answer.status}`, (refusals.get(`picture ${answer.status}`) ?? 0) + 1);
};
steps.draft = async (mine) => {
  if (!mine.draft) {
    const answer = await post("/machines/make?from=hedgerow-mower-2", "/machines/make?handler=Change&from=hedgerow-mower-2", new URLSearchParams({ from: "hedgerow-mower-2" }));
    mine.draft = /drafts\/(\d+)/.exec(answer.headers.get("location") ?? "")?.[1];
    if (!mine.draft) return void refusals.set(`draft ${answer.status}`, (refusals.get(`draft ${answer.status}`) ?? 0) + 1);
    kept.drafts.set(mine.draft, "");
  }
  const page = `/machines/drafts/${mine.draft}?on=machine`;
  const html = await (await fetch(app.url + page, { signal: AbortSignal.timeout(30_000) })).text();
  const after = /name="After" value="(\d+)"/.exec(html)?.[1];
  const name = `Mower ${Math.floor(random() * 1e9)}`;
  const answer = await post(page, `/machines/drafts/${mine.draft}?on=machine`, new URLSearchParams({ After: after, Name: name, Kind: "mower", Summary: "a mower", StopByHand: "let the bail go", StoppedBy: "the bail", MayDiffer: "not much", NotDrawn: "nothing" }));
  if (answer.status === 302) {
    writes++;
    kept.drafts.set(mine.draft, name);
  } else refusals.set(`draft ${answer.status}`, (refusals.get(`draft ${answer.status}`) ?? 0) + 1);
};

async function client(kinds) {
  const mine = {};
  while (!stopping) {
    for (const kind of kinds) {
      try {
        await steps[kind](mine);
      } catch {
        unanswered.count++;
        await sleep(50);
      }
    }
  }
}

const clients = [["job"], ["test", "job"], ["draft"], ["picture", "job"]].map(client);
const hung = [];
let slowest = 0;
for (let k = 0; k < wanted; k++) {
  if (k % 5 === 4) {
    // Ended while it starts, before it answers or soon after.
    await app.kill();
    app.process = spawn("dotnet", app.command, { stdio: ["ignore", "ignore", "ignore"] });
    await sleep(random() * 3000);
  } else await sleep(200 + random() * 1300);
  await app.kill();
  const begun = Date.now();
  try {
    await app.restart();
  } catch (e) {
    hung.push(`${k}: ${e.message}`);
    await app.restart();
  }
  slowest = Math.max(slowest, Date.now() - begun);
  if (k % 50 === 49) console.log(`${k + 1} kills, ${writes} acknowledged, slowest start ${slowest} ms, hung ${hung.length}`);
}
stopping = true;
await Promise.all(clients);

const missing = [];
for (const [tag, entries] of kept.jobs) {
  const job = await (await fetch(`${app.url}/api/v1/jobs/${tag}`)).json();
  if (!(job.sequence >= entries)) missing.push(`${tag}: ${job.sequence} of ${entries}`);
}
for (const [tag, taken] of kept.tests) {
  const { sequence } = await (await fetch(`${app.url}/api/v1/part-tests/${tag}`)).json();
  if (!(sequence >= taken)) missing.push(`${tag}: ${sequence} of ${taken}`);
}
for (const [id, name] of kept.drafts) if (name && !(await (await fetch(`${app.url}/machines/drafts/${id}`)).text()).includes(name)) missing.push(`draft ${id}: ${name}`);
const shown = await (await fetch(`${app.url}/machines/hedgerow-mower-2/pictures`)).text();
for (const words of kept.pictures) if (!shown.includes(words)) missing.push(`picture ${words}`);

// A backup is opened and checked whole before it counts.
await post("/record", "/record", new URLSearchParams());
const whole = /pritchel-\d{8}T\d{6}Z\.db/.test(await (await fetch(`${app.url}/record`)).text()) ? "whole" : "NOT WHOLE";
console.log(`${wanted} kills; acknowledged: ${kept.jobs.size} jobs, ${kept.tests.size} part tests, ${kept.drafts.size} drafts, ${kept.pictures.length} pictures, ${writes} writes; unanswered ${unanswered.count}`);
console.log(`refused: ${[...refusals].map(([w, n]) => `${w} ×${n}`).join(", ") || "none"}`);
console.log(`lost: ${missing.length ? missing.slice(0, 20).join("; ") : "nothing"}; starts that hung: ${hung.length}; slowest start ${slowest} ms; integrity: ${whole}`);
process.exitCode = missing.length || hung.length || whole !== "whole" ? 1 : 0;
await app.stop();
