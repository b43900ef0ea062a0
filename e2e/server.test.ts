import { spawn, type ChildProcess } from "node:child_process";
import { readdirSync, statSync } from "node:fs";
import { Agent, get, request, type IncomingMessage } from "node:http";
import { connect } from "node:net";
import { join } from "node:path";
import { chromium, expect, test } from "@playwright/test";
import { CHROMIUM_FLAGS } from "../scripts/chromium-flags.mjs";

/** The server of the app, from outside: what a careless or hostile client may do to it. */
const PORT = 4183;

interface Running {
  process: ChildProcess;
  said: () => string;
  ended: Promise<number | null>;
}

function start(env: Record<string, string>): Running {
  const child = spawn("node", ["server.mjs"], {
    cwd: join(import.meta.dirname, ".."),
    env: { ...process.env, NODE_ENV: "production", ...env },
  });
  let text = "";
  child.stdout.on("data", (piece) => (text += String(piece)));
  child.stderr.on("data", (piece) => (text += String(piece)));
  const ended = new Promise<number | null>((resolve) => child.on("exit", resolve));
  return { process: child, said: () => text, ended };
}

// One server of its own for all tests of this file.
test.describe.configure({ mode: "default" });

let server: Running;
test.beforeAll(async () => {
  server = start({ PORT: String(PORT) });
  await expect.poll(server.said).toContain("is served at");
});
test.afterAll(() => void server.process.kill("SIGKILL"));

interface Answer {
  status: number;
  headers: IncomingMessage["headers"];
  body: string;
}

const ask = (path: string, options: object = {}): Promise<Answer> =>
  new Promise((resolve, reject) => {
    const sent = request({ port: PORT, path, agent: false, ...options }, (response) => {
      let body = "";
      response.on("data", (piece) => (body += String(piece)));
      response.on("end", () =>
        resolve({ status: response.statusCode ?? 0, headers: response.headers, body }),
      );
    });
    sent.on("error", reject);
    sent.end();
  });

/** Sends bytes as they are, and gives what comes back. */
const raw = (text: string): Promise<string> =>
  new Promise((resolve, reject) => {
    const socket = connect(PORT, "127.0.0.1", () => socket.write(text));
    let answer = "";
    socket.on("data", (piece) => (answer += String(piece)));
    socket.on("close", () => resolve(answer));
    socket.on("error", reject);
    socket.setTimeout(5000, () => socket.destroy());
  });

test("opened by the machine's name, without encryption, it works and says what does not", async () => {
  // A name of its own instead of localhost: to the browser that is another machine.
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: [...CHROMIUM_FLAGS, "--host-resolver-rules=MAP institute.test 127.0.0.1"],
  });
  try {
    const page = await browser.newPage();
    const faults: string[] = [];
    page.on("pageerror", (error) => faults.push(error.message));
    await page.goto(`http://institute.test:${PORT}/`);
    expect(await page.evaluate(() => isSecureContext)).toBe(false);
    await expect(page.getByText("Served without encryption (http)")).toBeVisible();
    await page.getByRole("link", { name: /^Language café Do/ }).click();
    await page.goto(`http://institute.test:${PORT}/study/demo/evidence`);
    await expect(page.getByText("supported").first()).toBeVisible();
    const copy = page.getByRole("button", { name: "Copy Hypotheses and decisions" });
    await copy.click();
    await expect(copy).toHaveText("Copied");
    await page.getByRole("textbox", { name: "Research question" }).fill("");
    await page.getByRole("textbox", { name: "Research question" }).press("Control+V");
    await expect(page.getByRole("textbox", { name: "Research question" })).toHaveValue(/supported/);
    expect(faults).toEqual([]);
  } finally {
    await browser.close();
  }
});

test("HOST narrows where it listens, and says what is no address of this machine", async () => {
  const narrow = start({ PORT: "4185", HOST: "127.0.0.1" });
  await expect.poll(narrow.said).toContain("http://127.0.0.1:4185");
  narrow.process.kill("SIGKILL");
  const wrong = start({ PORT: "4186", HOST: "203.0.113.9" });
  await expect.poll(wrong.said).toContain("HOST is “203.0.113.9”, which is no address");
  expect(await wrong.ended).toBe(1);
});

test("what a browser keeps of the program stays small, and nothing of it is there twice", () => {
  const folder = join(import.meta.dirname, "../build/client/assets");
  const files = readdirSync(folder).filter((name) => !name.endsWith(".gz"));
  const sizes = files.map((name) => statSync(join(folder, name)).size);
  expect(sizes.reduce((sum, size) => sum + size, 0)).toBeLessThan(5.3e6);
  // Workers are small: what they compute with they share with the page.
  const workers = files.flatMap((name, i) => (name.includes(".worker-") ? [sizes[i]!] : []));
  expect(workers).toHaveLength(4);
  expect(Math.max(...workers)).toBeLessThan(150_000);
});

test("pages are always asked for anew, hashed files never, and the program's own worker at once", async () => {
  const page = await ask("/");
  expect(page.headers["cache-control"]).toBe("no-cache");
  const [asset] = /\/assets\/entry[^"]+\.js/.exec(page.body)!;
  expect((await ask(asset)).headers["cache-control"]).toMatch(/max-age=31536000, ?immutable/);
  expect((await ask("/sw.js")).headers["cache-control"]).toBe("no-cache");
  expect((await ask("/manifest.webmanifest")).headers["cache-control"]).toBe("no-cache");
  expect((await ask("/favicon.ico")).headers.location).toBe("/favicon.svg");
});

test("malformed, huge and unknown requests get a line, never how the program is made", async () => {
  const answers = [
    await ask("/%E0%A4%A"),
    await ask("/study/%ff/data"),
    await ask("/assets/none-12345678.js"),
    await ask("/assets/../../package.json"),
    await ask("/study/x/data", { method: "POST" }),
    await ask("/", { headers: { "content-length": "9999999" } }),
    await ask(`/${"a".repeat(9000)}`),
    await ask("/", { headers: { host: "a b<c>" } }),
    await ask("/", { headers: { "content-length": "5" } }),
    await ask("/constructor"),
    await ask("/__proto__/data"),
    await ask("/demo.hebel.json?about=constructor"),
    await ask("/demo.hebel.json?about=__proto__"),
  ];
  expect(answers.map((a) => a.status)).toEqual([
    404, 200, 404, 404, 405, 413, 404, 400, 400, 404, 404, 200, 200,
  ]);
  for (const { body, status } of answers) {
    expect(status).toBeLessThan(500);
    expect(body).not.toMatch(/node_modules|at .*\.(m?js|ts):\d+/);
  }
  expect(await raw("GARBAGE\r\n\r\n")).toMatch(/^HTTP\/1\.1 400/);
  expect(await raw(`GET / HTTP/1.1\r\nHost: x\r\nX: ${"y".repeat(20_000)}\r\n\r\n`)).toMatch(
    /^HTTP\/1\.1 431/,
  );
  expect((await ask("/health")).status).toBe(200);
});

test("senders of bodies without end are let go, and others are answered meanwhile", async () => {
  const sockets = Array.from({ length: 20 }, () => {
    const socket = connect(PORT, "127.0.0.1", () => {
      socket.write("GET / HTTP/1.1\r\nHost: x\r\nTransfer-Encoding: chunked\r\n\r\n");
    });
    const sending = setInterval(() => socket.write("400\r\n" + "x".repeat(1024) + "\r\n"), 10);
    socket.on("error", () => undefined);
    return new Promise<void>((resolve) =>
      socket.on("close", () => {
        clearInterval(sending);
        resolve();
      }),
    );
  });
  expect((await ask("/health")).status).toBe(200);
  await Promise.all(sockets);
});

test("two thousand connections kept open do not keep anybody else waiting", async () => {
  const agent = new Agent({ keepAlive: true, maxSockets: 2000 });
  const ok = await Promise.all(
    Array.from(
      { length: 2000 },
      () =>
        new Promise<boolean>((resolve) => {
          get({ port: PORT, path: "/favicon.svg", agent }, (response) => {
            response.resume();
            response.on("end", () => resolve(response.statusCode === 200));
          }).on("error", () => resolve(false));
        }),
    ),
  );
  expect(ok.filter(Boolean)).toHaveLength(2000);
  expect((await ask("/health")).status).toBe(200);
  agent.destroy();
});

test("the signal to stop lets open requests end, then the server stops", async () => {
  const own = start({ PORT: String(PORT + 1) });
  await expect.poll(own.said).toContain("is served at");
  // A request that has not arrived whole when the signal comes.
  const socket = connect(PORT + 1, "127.0.0.1");
  let answer = "";
  socket.on("data", (piece) => (answer += String(piece)));
  socket.write("GET /health HTTP/1.1\r\nHost: x\r\nConnection: close\r\n");
  await new Promise((resolve) => setTimeout(resolve, 200));
  own.process.kill("SIGTERM");
  await new Promise((resolve) => setTimeout(resolve, 200));
  socket.write("\r\n");
  expect(await own.ended).toBe(0);
  expect(answer).toMatch(/^HTTP\/1\.1 200/);
});

test("a port in use and a port that is none are said with the remedy", async () => {
  const second = start({ PORT: String(PORT) });
  expect(await second.ended).toBe(1);
  expect(second.said()).toMatch(/Port 4183 is in use.*PORT=4184 npm start/);
  expect(second.said()).not.toMatch(/at .*\.m?js/);
  const odd = start({ PORT: "abc" });
  expect(await odd.ended).toBe(1);
  expect(odd.said()).toMatch(/PORT is “abc”/);
});
