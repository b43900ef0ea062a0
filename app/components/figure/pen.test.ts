import { describe, expect, it } from "vitest";
import { svgPen } from "./pen";

describe("a drawing as SVG", () => {
  it("holds every mark with its look, rounded to a hundredth of a pixel", () => {
    const pen = svgPen();
    pen.circle(1.23456, 2, 3, { fill: "#123456", opacity: 0.5 });
    pen.shape(
      [
        [0, 0],
        [10, 0],
        [10, 5.558],
      ],
      true,
      { stroke: "red", width: 2, dash: [4, 3] },
    );
    expect(pen.markup()).toBe(
      '<circle cx="1.23" cy="2" r="3" fill="#123456" opacity="0.5"/>' +
        '<path d="M0 0L10 0L10 5.56Z" fill="none" stroke="red" stroke-width="2" stroke-dasharray="4 3"/>',
    );
  });

  it("cannot be broken by a variable's name", () => {
    const pen = svgPen();
    pen.text(0, 0, 'a < b & "c"', { fill: "black", size: 12, align: "middle" });
    expect(pen.markup()).toContain(">a &lt; b &amp; &quot;c&quot;</text>");
    expect(pen.markup()).toContain('text-anchor="middle"');
  });
});
