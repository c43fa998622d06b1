// All machines, all duties and sixty open jobs, twice: memory must level off.
//   node bench/trials/memory.mjs [rounds]
import { readFileSync } from "node:fs";
import { App } from "../../tests/browser/harness.mjs";

const rounds = Number(process.argv[2] ?? 2);
const app = await App.start("--empty");
const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${app.process.pid}/status`, "utf8"))[1]) / 1024;
let most = 0;
const watch = setInterval(() => (most = Math.max(most, memory())), 500);
const visit = (path) => fetch(app.url + path).then((r) => r.arrayBuffer());

const machines = await app.api("/machines");
for (let round = 1; round <= rounds; round++) {
  const open = [];
  let duties = 0;
  for (const { id } of machines) {
    await visit(`/machines/${id}`);
    for (const complaint of await app.api(`/machines/${id}/complaints`)) {
      duties++;
      const { tag } = await app.api("/jobs", { machine: id, duty: complaint.duty });
      await app.api(`/jobs/${tag}/complaint`, { heard: complaint.heard[0].said, failed: 2, tried: 2 });
      await visit(`/jobs/${tag}`);
      open.push(tag);
    }
  }
  for (const tag of open.slice(-60)) await visit(`/jobs/${tag}`);
  await visit("/");
  const once = memory();
  // By then it has been looked through once more.
  await new Promise((r) => setTimeout(r, 12_000));
  console.log(`round ${round}: ${machines.length} machines, ${duties} duties, ${Math.min(60, open.length)} jobs open; ${once.toFixed(0)} MB at once, ${memory().toFixed(0)} MB after it, ${most.toFixed(0)} MB at the most`);
}
clearInterval(watch);
await app.stop();
