import { describe, expect, it } from "vitest";
import { completePlan, DEFAULT_SETTINGS, newDefinition } from "../index";
import { PieceMaker, PiecePool, type PieceThread } from "./pool";
import type { Piece, PieceResult, SimulationTask } from "./simulate";

const task = (name: string): SimulationTask => ({
  study: { ...newDefinition(name, []), settings: DEFAULT_SETTINGS },
  plan: completePlan({}),
  every: false,
});
const pieces: Piece[] = [0, 20, 40, 60, 80, 100].map((first) => ({ people: 50, first, count: 20 }));
/** A pool carries results and never looks into them. */
const resultOf = (piece: Piece): PieceResult => ({ ...piece }) as unknown as PieceResult;

/** Threads that answer at once, unless told to die at the nth piece. */
function threads(dies: (nth: number) => boolean = () => false) {
  const asked: { thread: number; key: string; first: number }[] = [];
  let started = 0;
  let ended = 0;
  const start = (): PieceThread => {
    const thread = (started += 1);
    return {
      make: async (key, _, piece) => {
        asked.push({ thread, key, first: piece.first });
        if (dies(asked.length)) throw new Error("out of memory");
        await Promise.resolve();
        return resultOf(piece);
      },
      end: () => void (ended += 1),
    };
  };
  return { start, asked, counts: () => ({ started, ended }) };
}

describe("a pool that makes pieces", () => {
  it("makes every piece once, on threads that start when there is work", async () => {
    const { start, asked, counts } = threads();
    const pool = new PiecePool(start, 3);
    expect(counts().started).toBe(0);
    const came: number[] = [];
    await pool.run(task("a"), pieces, (result) => came.push(result.first));
    expect(came.sort((a, b) => a - b)).toEqual(pieces.map((p) => p.first));
    expect(asked.map((a) => a.first).sort((a, b) => a - b)).toEqual(pieces.map((p) => p.first));
    expect(counts()).toEqual({ started: 3, ended: 0 });
    pool.close();
    expect(counts().ended).toBe(3);
  });

  it("gives a task one name, and another task another", async () => {
    const { start, asked } = threads();
    const pool = new PiecePool(start, 2);
    const [one, other] = [task("one"), task("other")];
    await pool.run(one, pieces, () => undefined);
    await pool.run(one, pieces, () => undefined);
    const first = new Set(asked.map((a) => a.key));
    expect(first.size).toBe(1);
    await pool.run(other, pieces, () => undefined);
    expect(new Set(asked.map((a) => a.key)).size).toBe(2);
  });

  it("replaces a thread that dies, and makes its piece again", async () => {
    const { start, counts } = threads((nth) => nth === 2);
    const came: number[] = [];
    await new PiecePool(start, 1).run(task("a"), pieces, (result) => came.push(result.first));
    expect(came).toEqual(pieces.map((p) => p.first));
    expect(counts()).toEqual({ started: 2, ended: 1 });
  });

  it("says the fault when a piece kills every thread that tries it", async () => {
    const { start, counts } = threads(() => true);
    await expect(new PiecePool(start, 1).run(task("a"), pieces, () => undefined)).rejects.toThrow(
      "out of memory",
    );
    expect(counts()).toEqual({ started: 3, ended: 3 });
  });

  it("is over at once when a run is stopped and its threads are ended: nothing is tried again", async () => {
    let started = 0;
    const stopper = new AbortController();
    const pool = new PiecePool(() => {
      started += 1;
      let refuse: (reason: Error) => void;
      return {
        make: () => new Promise<PieceResult>((_, reject) => (refuse = reject)),
        end: () => refuse(new Error("ended")),
      };
    }, 2);
    const came: PieceResult[] = [];
    const running = pool.run(task("a"), pieces, (result) => came.push(result), stopper.signal);
    stopper.abort();
    pool.close();
    await running;
    expect(came).toEqual([]);
    expect(started).toBe(2);
  });
});

describe("the inside of a thread", () => {
  it("prepares a task once, as long as it is asked for no other", () => {
    const begun: string[] = [];
    const maker = new PieceMaker((of) => {
      begun.push(of.study.title);
      return { piece: resultOf };
    });
    maker.make("a", task("a"), pieces[0]!);
    maker.make("a", task("a"), pieces[1]!);
    maker.make("b", task("b"), pieces[0]!);
    maker.make("a", task("a"), pieces[2]!);
    expect(begun).toEqual(["a", "b", "a"]);
  });
});
