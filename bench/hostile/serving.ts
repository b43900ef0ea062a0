import { spawn } from "node:child_process";
import { readFileSync } from "node:fs";
import { get } from "node:http";
import { connect, type Socket } from "node:net";
import { ensureBuild } from "../../scripts/ensure.mjs";

const PORT = 4177;
const SOCKETS = 300;
const PIPELINED = 60;
const BODIES = 20;
/** How every answer begins. */
const START = "HTTP/1.1 ";
const CONNECTIONS = 50;

/**
 * What a crowd does to the server: sockets that ask for many pages without waiting, bodies without
 * end beside them, and how long a look at its health takes meanwhile; then steady connections for so
 * many seconds.
 */
export async function measureServing(seconds = 60): Promise<void> {
  ensureBuild();
  const server = spawn("node", ["server.mjs"], {
    env: { ...process.env, PORT: String(PORT), NODE_ENV: "production" },
    stdio: "ignore",
  });
  try {
    while (!(await healthy().catch(() => null))) await pause(200);
    console.log(`memory before: ${memoryOf(server.pid!)} MB`);
    // A server that has just started makes its first pages slowly.
    for (let i = 0; i < 200; i++) await page();
    await crowd(server.pid!);
    await pause(2000);
    await steady(seconds, server.pid!);
  } finally {
    server.kill();
  }
}

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

const memoryOf = (pid: number): number =>
  Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))![1]) / 1024);

/** How long an answer takes on a connection of its own, in milliseconds. */
const asked = (path: string): Promise<number> =>
  new Promise((resolve, reject) => {
    const started = performance.now();
    get({ port: PORT, path, agent: false }, (response) => {
      response.resume();
      response.on("end", () => resolve(performance.now() - started));
    }).on("error", reject);
  });
const healthy = (): Promise<number> => asked("/health");
const page = (): Promise<number> => asked("/");

/** A socket that sends, and counts the answers that come back. */
function sender(text: string): { socket: Socket; answers: () => number } {
  const socket = connect(PORT);
  let answers = 0;
  let rest = "";
  socket.on("data", (piece) => {
    const text = rest + String(piece);
    answers += text.split(START).length - 1;
    // A start that is cut in two by the pieces is counted once, with the second.
    rest = text.slice(-START.length + 1);
  });
  socket.on("error", () => undefined);
  socket.write(text);
  return { socket, answers: () => answers };
}

async function crowd(pid: number): Promise<void> {
  const ask = "GET / HTTP/1.1\r\nHost: localhost\r\n\r\n".repeat(PIPELINED);
  const started = performance.now();
  const senders = Array.from({ length: SOCKETS }, () => sender(ask));
  const bodies = Array.from({ length: BODIES }, () => {
    const { socket } = sender(
      "POST / HTTP/1.1\r\nHost: localhost\r\nTransfer-Encoding: chunked\r\n\r\n",
    );
    const piece = `10000\r\n${"x".repeat(65_536)}\r\n`;
    const more = (): void =>
      void (!socket.destroyed && socket.write(piece, () => setTimeout(more)));
    more();
    return socket;
  });
  const answered = (): number => senders.reduce((sum, { answers }) => sum + answers(), 0);
  const waits: number[] = [];
  let most = 0;
  while (answered() < SOCKETS * PIPELINED && performance.now() - started < 60_000) {
    waits.push(await healthy());
    most = Math.max(most, memoryOf(pid));
    await pause(20);
  }
  const took = (performance.now() - started) / 1000;
  for (const socket of [...bodies, ...senders.map((s) => s.socket)]) socket.destroy();
  console.log(
    `${SOCKETS} sockets with ${PIPELINED} requests each, ${BODIES} bodies without end: ` +
      `${answered()} answers in ${took.toFixed(1)} s; health ${waits.length} times, ` +
      `slowest ${Math.round(Math.max(...waits))} ms; memory at the most ${most} MB`,
  );
}

async function steady(seconds: number, pid: number): Promise<void> {
  const until = performance.now() + 1000 * seconds;
  let count = 0;
  await Promise.all(
    Array.from({ length: CONNECTIONS }, async () => {
      for (; performance.now() < until; count++) await page();
    }),
  );
  await pause(2000);
  console.log(
    `${CONNECTIONS} connections for ${seconds} s: ${Math.round(count / seconds)} pages a second; ` +
      `memory afterwards ${memoryOf(pid)} MB`,
  );
}
