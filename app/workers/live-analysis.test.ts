import "fake-indexeddb/auto";
import { expect, it, vi } from "vitest";
import { analyse, buildDataset, ReplicateMaker, ReplicatePool } from "../../core";
import { demoStudy } from "../../demo/study";
import { LiveAnalysis, type Update } from "./live-analysis";

vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined });

const demo = demoStudy();
const definition = {
  ...demo.definition,
  settings: { ...demo.definition.settings, replications: 1500 },
};
const followed = {
  definition,
  dataKey: "sheet",
  table: demo.table,
  dataset: buildDataset(definition, demo.table),
};

it("draws no more than are wanted for now, says so, and the rest to the same digits when asked", async () => {
  let made = 0;
  const pool = new ReplicatePool(() => {
    const maker = new ReplicateMaker();
    return {
      ask: async (request) => {
        if (request.kind === "replicates") made += request.count;
        return maker.answer(request);
      },
      end: () => undefined,
    };
  }, 1);
  const live = new LiveAnalysis(pool, 1);
  const told: Update[] = [];
  const follow = async (goOn: boolean): Promise<Update> => {
    told.length = 0;
    await live.follow(followed, { goOn, most: 600 }, (update) => void told.push(update));
    await live.settled();
    return told.at(-1)!;
  };
  const first = await follow(false);
  expect(first).toMatchObject({ status: "trying", done: 600, requested: 1500 });
  expect(first.evidence!.bootstrap).toMatchObject({ done: 600, requested: 1500 });
  // Opened again it is where it was, and nothing is drawn anew.
  expect(await follow(false)).toMatchObject({ status: "trying", done: 600 });
  expect(made).toBe(600);
  const last = await follow(true);
  expect(last.status).toBe("done");
  expect(last.evidence).toEqual(analyse(definition, demo.table));
  expect(made).toBe(1500);
});
