import { EventEmitter } from "node:events";
import { describe, expect, test } from "vitest";
import { byTurns } from "./turns.mjs";

const turn = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

class Socket extends EventEmitter {
  destroyed = false;
}

/** A server whose pages end when they are told to. */
function asked() {
  const through = byTurns(({ url }: { url: string }) => url === "/health");
  const made: string[] = [];
  const open = new Map<string, EventEmitter>();
  const ask = (socket: Socket, url: string): void => {
    const response = new EventEmitter();
    through({ socket, url }, response, () => {
      made.push(url);
      open.set(url, response);
    });
  };
  const finish = async (url: string): Promise<void> => {
    open.get(url)!.emit("finish");
    await turn();
  };
  return { ask, made, finish };
}

describe("pages by turns", () => {
  test("a connection has one page made at a time, and one that asks later comes before its second", async () => {
    const { ask, made, finish } = asked();
    const [greedy, other] = [new Socket(), new Socket()];
    for (let i = 1; i <= 50; i++) ask(greedy, `/${i}`);
    await turn();
    expect(made).toEqual(["/1"]);
    ask(other, "/other");
    await turn();
    expect(made).toEqual(["/1", "/other"]);
    await finish("/1");
    expect(made).toEqual(["/1", "/other", "/2"]);
  });

  test("eight are made at once, and the rest in the order they came", async () => {
    const { ask, made, finish } = asked();
    for (let i = 1; i <= 20; i++) ask(new Socket(), `/${i}`);
    await turn();
    expect(made).toHaveLength(8);
    await finish("/3");
    expect(made.slice(8)).toEqual(["/9"]);
  });

  test("what needs no turn waits for nobody, and who has gone is made nothing", async () => {
    const { ask, made } = asked();
    const gone = new Socket();
    ask(gone, "/gone");
    gone.destroyed = true;
    gone.emit("close");
    ask(new Socket(), "/health");
    expect(made).toEqual(["/health"]);
    await turn();
    expect(made).toEqual(["/health"]);
  });

  test("a page that nobody takes off holds the others up for a second at most", async () => {
    const { ask, made } = asked();
    for (let i = 1; i <= 9; i++) ask(new Socket(), `/${i}`);
    await turn();
    expect(made).toHaveLength(8);
    await expect.poll(() => made.length, { timeout: 10_000 }).toBe(9);
  });
});
