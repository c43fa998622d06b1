// Requests that know the API's structure and break it. Nothing may answer 5xx; what is worked on
// for over two seconds is named, and so is what was waited for as long: predictions not there yet, the line before it.
//   node bench/trials/requests.mjs [how many] [seed]
import { App } from "../../tests/browser/harness.mjs";
import { hurl } from "../../tests/browser/hurling.mjs";

const wanted = Number(process.argv[2] ?? 100_000);
const app = await App.start();
const counts = (told) => [...told.statuses].map(([status, n]) => `${status} ×${n}`).join(", ");
const told = await hurl(app, wanted, Number(process.argv[3] ?? 20261129), {
  every: (t) => t.sent % 5000 === 0 && console.log(`${t.sent}: ${counts(t)}; faults ${t.faults.size}; ${t.megabytes.toFixed(0)} MB`),
});
console.log(`${told.sent} requests: ${counts(told)}; most memory ${told.megabytes.toFixed(0)} MB`);
for (const [what, how] of told.faults) console.log(`FAULT ${what}\n  ${how}`);
for (const [what, ms] of told.slow) console.log(`over two seconds of work: ${what}, ${(ms / 1000).toFixed(1)} s`);
for (const [what, ms] of told.waited) console.log(`over two seconds, waiting included: ${what}, ${(ms / 1000).toFixed(1)} s`);
process.exitCode = told.faults.size ? 1 : 0;
await app.stop();
