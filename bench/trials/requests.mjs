// Requests that know the API's structure and break it: every route of its own description and every page, with right, wrong,
// missing, huge and foreign values. Nothing may answer 5xx, or take two seconds of work.
//   node bench/trials/requests.mjs [how many] [seed]
import { readFileSync } from "node:fs";
import { App } from "../../tests/browser/harness.mjs";

const wanted = Number(process.argv[2] ?? 100_000);
const random = ((state) => () => (state = (state * 48271) % 2147483647) / 2147483647)(Number(process.argv[3] ?? 20261129));
const any = (all) => all[Math.floor(random() * all.length)];
const app = await App.start();
const description = await (await fetch(`${app.url}/api/v1/openapi.json`)).json();
const machines = (await (await fetch(`${app.url}/api/v1/machines`)).json()).map((m) => m.id);
const file = await (await fetch(`${app.url}/api/v1/machines/hedgerow-mower-2`)).json();

const ids = [...machines, "T-0001", "T-0003", "T-9999", "P-0001", "R-0001", "L-0001", "x", "..", "%00", "é", "a".repeat(300), "0", "-1"];
const texts = ["", "x", "12.4", "OL", "0,1", "-5", "1e999", "NaN", "٣", "\u0000", "\ud800", "'); DROP TABLE Jobs;--", "<script>", "=1+1", "a".repeat(5000), "key", "START", "battery.+", "battery.-", "solenoid.S", "coil", "stator", "grounds", "cranks", "sparks-magneto", "nothing", "volts", "ohms", "dcVolts", "OFF"];
const numbers = [0, 1, -1, 3, 0.5, 1e9, -1e9, 1e308, 2 ** 53, 1e-300, 20];

function value(schema, depth = 0) {
  if (random() < 0.08) return any([null, [], {}, "x", 7, true, [[[]]], { a: { b: {} } }]);
  if (schema?.$ref) return value(description.components.schemas[schema.$ref.split("/").at(-1)], depth + 1);
  const one = schema?.oneOf ?? schema?.anyOf;
  if (one) return value(any(one), depth + 1);
  if (schema?.enum) return random() < 0.9 ? any(schema.enum) : any(texts);
  const type = Array.isArray(schema?.type) ? any(schema.type) : schema?.type;
  if (type === "object" || schema?.properties) {
    const made = {};
    for (const [name, inner] of Object.entries(schema.properties ?? {})) if (random() < 0.8) made[name] = name === "machine" && random() < 0.6 ? any(machines) : value(inner, depth + 1);
    if (schema.additionalProperties) for (let k = 0; k < 2; k++) made[any(texts).slice(0, 40)] = value(schema.additionalProperties, depth + 1);
    if (random() < 0.05) made[any(texts).slice(0, 40)] = 1;
    return made;
  }
  if (type === "array") return depth > 6 ? [] : Array.from({ length: any([0, 1, 2, 2, 60]) }, () => value(schema.items, depth + 1));
  if (type === "number" || type === "integer") return any(numbers);
  if (type === "boolean") return random() < 0.5;
  return random() < 0.5 ? any(ids) : any(texts);
}

/** A machine file with one thing in it changed. */
function changed() {
  const copy = structuredClone(file);
  const places = [];
  const walk = (at) => Object.keys(at).forEach((key) => (places.push([at, key]), at[key] && typeof at[key] === "object" && walk(at[key])));
  walk(copy);
  for (let k = 0; k < any([1, 1, 2, 5]); k++) {
    const [at, key] = any(places);
    at[key] = any([null, "", [], {}, any(texts), any(numbers), any(ids), at[any(Object.keys(at))]]);
  }
  return copy;
}

const routes = Object.entries(description.paths).flatMap(([path, methods]) => Object.entries(methods).map(([method, what]) => ({ path, method: method.toUpperCase(), schema: what.requestBody?.content?.["application/json"]?.schema })));
const pages = ["/", "/machines/{id}", "/machines/{id}/normal", "/machines/{id}/pictures", "/machines/{id}?view={id}&c.key={id}", "/jobs/{id}", "/jobs/{id}/look", "/jobs/{id}/complaint", "/jobs/{id}/repair", "/jobs/{id}/prove", "/jobs/{id}/why", "/jobs/{id}/sheet", "/jobs/{id}/reading", "/jobs/{id}/history", "/part-tests/{id}", "/part-tests/new?kind={id}", "/part-tests?machine={id}", "/rewires/{id}/sides", "/rewires/{id}/marry", "/rewires/looms/{id}", "/machines/drafts/{id}", "/record/restore?backup={id}", "/jobs/{id}?line={id}", "/jobs/{id}?condition={id}"];

const statuses = new Map();
const faults = new Map();
const slow = new Map();
let sent = 0;
let most = 0;

const fitting = (path) => (/machines/.test(path) ? machines : /jobs/.test(path) ? ["T-0001", "T-0002", "T-0003", "T-0004", "T-0005", "T-0006"] : /looms/.test(path) ? ["R-0002"] : /rewires/.test(path) ? ["R-0001"] : /part-tests/.test(path) ? ["P-0001", "P-0002", "P-0003"] : ids);

async function one() {
  const page = random() < 0.15;
  const route = page ? { path: any(pages), method: "GET" } : any(routes);
  const path = route.path.replaceAll(/\{[^}]+\}/g, () => encodeURIComponent(random() < 0.8 ? any(fitting(route.path)) : any(ids)).replace("%2500", "%00"));
  let body;
  if (route.method === "POST") {
    const made = route.schema ? value(route.schema) : {};
    if (/measure$/.test(route.path) && made && typeof made === "object" && "machine" in made && random() < 0.7) made.machine = changed();
    body = route.path.endsWith("/machines") ? JSON.stringify(changed()) : JSON.stringify(made);
    if (random() < 0.03) body = body.slice(0, Math.floor(random() * body.length));
  }
  const begun = performance.now();
  const answer = await fetch(app.url + path, { method: route.method, headers: body === undefined ? {} : { "content-type": random() < 0.98 ? "application/json" : "text/plain" }, body, redirect: "manual" }).catch((e) => ({ status: `broken: ${e.cause?.code ?? e.message}`, text: async () => "" }));
  const text = await answer.text();
  const took = performance.now() - begun;
  statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
  const name = `${route.method} ${route.path}`;
  if (!(answer.status < 500)) faults.set(`${answer.status} ${name}`, `${path} ${body?.slice(0, 400) ?? ""} → ${text.slice(0, 200)}`);
  if (answer.status === 204 && process.env.SHOW) console.log(name, path);
  if (took > 2000) slow.set(name, Math.max(slow.get(name) ?? 0, took));
  sent++;
  if (sent % 1000 === 0) {
    most = Math.max(most, Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${app.process.pid}/status`, "utf8"))[1]) / 1024);
    if (sent % 10_000 === 0) console.log(`${sent}: ${[...statuses].map(([s, n]) => `${s} ×${n}`).join(", ")}; faults ${faults.size}; ${most.toFixed(0)} MB`);
  }
}

await Promise.all(
  Array.from({ length: 4 }, async () => {
    while (sent < wanted) await one();
  }),
);
console.log(`${sent} requests: ${[...statuses].map(([s, n]) => `${s} ×${n}`).join(", ")}; most memory ${most.toFixed(0)} MB`);
for (const [what, how] of faults) console.log(`FAULT ${what}\n  ${how}`);
for (const [what, ms] of slow) console.log(`over two seconds: ${what}, ${(ms / 1000).toFixed(1)} s`);
process.exitCode = faults.size ? 1 : 0;
await app.stop();
