// Many people at once: each opens jobs, enters readings, tests parts and reads pages. No answer may be the program's fault,
// no entry may be lost, the bench must answer, and memory must level off.
//   node bench/trials/clients.mjs [clients] [minutes]
import { readFileSync } from "node:fs";
import { App } from "../../tests/browser/harness.mjs";

const clients = Number(process.argv[2] ?? 50);
const minutes = Number(process.argv[3] ?? 10);
const app = await App.start("--empty");
const until = Date.now() + minutes * 60_000;
const spent = new Map();
const statuses = new Map();
const faults = [];
const kept = new Map();

const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${app.process.pid}/status`, "utf8"))[1]) / 1024;

async function ask(kind, path, body) {
  const begun = performance.now();
  const answer = await fetch(app.url + path, body ? { method: "POST", headers: { "content-type": "application/json" }, body: JSON.stringify(body) } : {});
  const text = await answer.text();
  if (!spent.has(kind)) spent.set(kind, []);
  spent.get(kind).push(performance.now() - begun);
  statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
  if (answer.status >= 500) faults.push(`${answer.status} ${path}: ${text.slice(0, 200)}`);
  return { ok: answer.ok, status: answer.status, text };
}

async function client(k) {
  const shared = "T-0001";
  const opened = await ask("open", "/api/v1/jobs", { machine: k % 2 ? "hedgerow-mower-2" : "orchard-tractor-4", duty: k % 2 ? "sparks-magneto" : "cranks" });
  const { tag } = JSON.parse(opened.text);
  let entries = 1;
  if ((await ask("tell", `/api/v1/jobs/${tag}/complaint`, { heard: "nothing", failed: 2, tried: 2 })).ok) entries++;
  for (let n = 0; Date.now() < until; n++) {
    await ask("bench", "/");
    if ((await ask("enter", `/api/v1/jobs/${tag}/help`, { alone: n % 2 === 0 })).ok) entries++;
    // All at one job: the second of two is told, and adds nothing.
    if ((await ask("same job", `/api/v1/jobs/${shared}/help`, { alone: n % 2 === 0 })).ok) kept.set(shared, (kept.get(shared) ?? 0) + 1);
    await ask("sheet", `/jobs/${tag}/sheet`);
    await ask("machine", `/machines/${k % 2 ? "hedgerow-mower-2" : "orchard-tractor-4"}`);
    await new Promise((r) => setTimeout(r, 500 + Math.random() * 3000));
  }
  kept.set(tag, entries);
}

await app.api("/jobs", { machine: "hedgerow-mower-2", duty: "sparks-magneto" });
const memories = [];
const watch = setInterval(() => memories.push(memory()), 15_000);
await Promise.all(Array.from({ length: clients }, (_, k) => client(k)));
clearInterval(watch);

const lost = [];
for (const [tag, entries] of kept) {
  const { sequence } = await app.api(`/jobs/${tag}`);
  const wanted = tag === "T-0001" ? entries + 1 : entries;
  if (sequence !== wanted) lost.push(`${tag}: ${sequence} of ${wanted}`);
}
const at = (all, share) => all.toSorted((a, b) => a - b)[Math.min(all.length - 1, Math.floor(share * all.length))].toFixed(0);
for (const [kind, all] of spent) console.log(`${kind}: ${all.length}, median ${at(all, 0.5)} ms, p99 ${at(all, 0.99)} ms`);
console.log(`answers: ${[...statuses].map(([s, n]) => `${s} ×${n}`).join(", ")}`);
console.log(`memory, MB: ${memories.map((m) => m.toFixed(0)).join(" ")}`);
console.log(`entries lost or doubled: ${lost.length ? lost.join("; ") : "none"}; the program's faults: ${faults.length ? faults.slice(0, 5).join(" | ") : "none"}`);
process.exitCode = lost.length || faults.length ? 1 : 0;
await app.stop();
