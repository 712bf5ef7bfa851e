import { describe, expect, it } from "vitest";
import { build, station } from "../testing/build";
import { crankLength, crankReach, crankShape } from "./geometry";

const { layout } = build([station(1), station(2), station(3)]);

describe("the crank from the side", () => {
  const scale = 2e-6;
  const shape = crankShape(layout, scale, 80);

  it("is true to scale on both axes", () => {
    const main = shape.mains[0];
    expect(main && main.bottom - main.top).toBeCloseTo(layout.main_journal * scale, 6);
    expect(main?.width).toBeCloseTo(layout.crank.main_width * scale, 6);
  });

  it("has a pin between each two mains and webs on both sides of every pin", () => {
    expect(shape.mains).toHaveLength(3);
    expect(shape.pins).toHaveLength(2);
    expect(shape.webs).toHaveLength(4);
  });

  it("is as long and as high as was said", () => {
    expect(shape.width).toBeCloseTo(crankLength(layout) * scale, 6);
    const reach = crankReach(layout) * scale;
    for (const web of shape.webs) {
      expect(80 - web.top).toBeLessThanOrEqual(reach + 1e-6);
      expect(web.bottom - 80).toBeLessThanOrEqual(reach + 1e-6);
    }
  });

  it("puts pins half a turn apart on opposite sides of the axis", () => {
    const [a, b] = shape.pins;
    expect((a?.axis ?? 0) + (b?.axis ?? 0)).toBeCloseTo(160, 6);
  });
});
