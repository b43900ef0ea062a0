import { describe, expect, it } from "vitest";
import { typedPercentages } from "../screening/descriptives-table";
import { typedProbes } from "./probe-controls";

describe("comparison values as they are typed", () => {
  it("are numbers and percentages, in rising order, each once", () => {
    expect(typedProbes("2; 3,5; 20 %")).toEqual([2, 3.5, "20 %"]);
    expect(typedProbes("80%;20%")).toEqual(["20 %", "80 %"]);
    expect(typedProbes("5 5 -1")).toEqual([-1, 5]);
    expect(typedProbes("2.5 %")).toEqual(["2.5 %"]);
  });
  it("leave out what is neither, and percentages that do not exist", () => {
    expect(typedProbes("a; 0 %; 100 %; 130 %; -5 %")).toEqual([]);
    expect(typedProbes("")).toEqual([]);
    expect(typedProbes("1;2;3;4;5;6;7")).toHaveLength(6);
  });
});

it("percentages for a table are whole, between 1 and 99, at most seven", () => {
  expect(typedPercentages("20 %; 80 %")).toEqual([20, 80]);
  expect(typedPercentages("90, 10 50")).toEqual([10, 50, 90]);
  expect(typedPercentages("0; 100; 2.5; x; 30; 30")).toEqual([30]);
  expect(typedPercentages("1 2 3 4 5 6 7 8 9")).toHaveLength(7);
});
