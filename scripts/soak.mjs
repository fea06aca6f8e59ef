// Holds a running Fresh Apron, on loopback only, under load for a while, and prints how it
// answered. Each user signs in to the demonstration and opens one page after another, as
// fast as somebody who presses about once in a second.
//   node scripts/soak.mjs [--users 20] [--seconds 60] [--address http://127.0.0.1:8080]
import http from "node:http";
import { parseArgs } from "node:util";

const { values } = parseArgs({
  options: {
    users: { type: "string", default: "20" },
    seconds: { type: "string", default: "60" },
    address: { type: "string", default: "http://127.0.0.1:8080" },
  },
});
const users = Math.min(Number(values.users), 200);
const seconds = Math.min(Number(values.seconds), 600);
const address = new URL(values.address);
if (!["127.0.0.1", "localhost", "[::1]"].includes(address.hostname)) {
  console.error("Only a server on this machine is put under load.");
  process.exit(2);
}
const agent = new http.Agent({ keepAlive: true, maxSockets: users });
const kinds = ["/", ...[1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13].map((n) => `/lessons/${n}`), "/recipes"];
const took = new Map();
const failed = [];

function ask(method, path, cookie, body) {
  return new Promise((done) => {
    const began = performance.now();
    const headers = { Cookie: cookie, "Accept-Encoding": "gzip" };
    if (body) headers["Content-Type"] = "application/x-www-form-urlencoded";
    const request = http.request(new URL(path, address), { method, headers, agent }, (answer) => {
      answer.resume();
      answer.on("end", () =>
        done({
          status: answer.statusCode,
          ms: performance.now() - began,
          cookie: answer.headers["set-cookie"]?.[0]?.split(";")[0],
        }),
      );
    });
    request.on("error", (error) => done({ status: 0, ms: performance.now() - began, says: error.message }));
    request.end(body);
  });
}

const quantile = (list, share) => list[Math.min(list.length - 1, Math.floor(list.length * share))];

async function user(n, until) {
  const { cookie } = await ask("POST", "/signin/demonstration", "", `account=${1 + (n % 3)}`);
  for (let k = n; performance.now() < until; k++) {
    const path = kinds[k % kinds.length];
    const answer = await ask("GET", path, cookie);
    if (answer.status !== 200) failed.push(`${path}: ${answer.status} ${answer.says ?? ""}`);
    const kind = path.replace(/\d+/, "…");
    took.set(kind, [...(took.get(kind) ?? []), answer.ms]);
    await new Promise((rest) => setTimeout(rest, 700 + 600 * ((n * 7 + k * 13) % 11) * 0.1));
  }
}

const until = performance.now() + seconds * 1000;
await Promise.all(Array.from({ length: users }, (_, n) => user(n, until)));
console.log(`${users} users for ${seconds} s at ${address.host}`);
for (const [kind, list] of [...took].sort()) {
  list.sort((a, b) => a - b);
  const figure = (share) => quantile(list, share).toFixed(1).padStart(7);
  console.log(
    `${kind.padEnd(14)} ${String(list.length).padStart(6)} times  p50 ${figure(0.5)}  p95 ${figure(0.95)}  worst ${figure(1)} ms`,
  );
}
console.log(failed.length === 0 ? "none failed" : `${failed.length} failed, first: ${failed[0]}`);
agent.destroy();
