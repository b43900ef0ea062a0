import { describe, expect, it } from "vitest";
import { SCREENS } from "../components/frame/stages";
import { pageFor, PAGES } from "./pages";

describe("pages kept for work without a network", () => {
  it("are one for each screen, whatever the study", () => {
    for (const [screen] of SCREENS)
      expect(pageFor(`/study/3f2a/${screen}`)).toBe(`/study/_/${screen}`);
    expect(PAGES).toHaveLength(SCREENS.length + 3);
  });

  it("are found with a slash at the end, and not for what no screen is", () => {
    expect(pageFor("/")).toBe("/");
    expect(pageFor("/study/demo/")).toBe("/study/_");
    expect(pageFor("/study/demo/data/")).toBe("/study/_/data");
    expect(pageFor("/health")).toBeNull();
    expect(pageFor("/study/demo/nonsense")).toBeNull();
  });
});
