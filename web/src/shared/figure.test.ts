import { describe, expect, it } from "vitest";
import {
  clearanceParts,
  lineText,
  plain,
  roughText,
  sizeParts,
  stepPhrase,
  stepText,
  stepWord,
} from "./figure";

describe("figures as the bench shows them", () => {
  it("gives a size four decimals of an inch and a small half tenth", () => {
    expect(sizeParts(66_644_520, "in")).toEqual({ sign: "", text: "2.6238", half: false });
    expect(sizeParts(54_610, "in")).toEqual({ sign: "", text: "0.0021", half: true });
    expect(plain(sizeParts(54_610, "in"))).toBe("0.00215");
  });

  it("gives a size three decimals of a millimetre and a clearance whole micrometres", () => {
    expect(sizeParts(59_991_000, "mm").text).toBe("59.991");
    expect(clearanceParts(59_500, "mm")).toEqual({ sign: "", text: "59", half: true });
    expect(plain(clearanceParts(59_500, "mm"))).toBe("59.5");
  });

  it("shows nothing finer than half a tenth, and ties go to the even half", () => {
    expect(plain(sizeParts(54_610 + 600, "in"))).toBe("0.00215");
    expect(plain(sizeParts(635, "in"))).toBe("0.0000");
    expect(plain(sizeParts(635 + 1_270, "in"))).toBe("0.0001");
  });

  it("puts a real minus before what is below nothing, and none before a nought", () => {
    expect(plain(sizeParts(-7_620, "in"))).toBe("\u22120.0003");
    expect(plain(sizeParts(-100, "in"))).toBe("0.0000");
  });

  it("shows a roughness in millionths of an inch, or in micrometres", () => {
    expect([203, 102, 114, 1_524].map((nm) => roughText(nm, "in"))).toEqual([
      "8 \u00b5in",
      "4 \u00b5in",
      "4.5 \u00b5in",
      "60 \u00b5in",
    ]);
    expect(roughText(203, "mm")).toBe("0.20 \u00b5m");
  });

  it("speaks of small differences in bench steps", () => {
    expect(stepText(3_810, "in")).toBe("1.5");
    expect(stepPhrase(-1_270, "in")).toBe("half a tenth");
    expect(stepPhrase(2_607, "in")).toBe("1 tenth");
    expect(stepPhrase(7_620, "in")).toBe("3 tenths");
    expect(stepPhrase(24_130, "in")).toBe("9.5 tenths");
    expect([25_400, 83_820, 254_000].map((nm) => stepPhrase(nm, "in"))).toEqual([
      "a thou",
      "3.3 thou",
      "10 thou",
    ]);
    expect(stepPhrase(2_500, "mm")).toBe("2.5 \u00b5m");
    expect(stepWord(0, "in")).toBe("tenths");
    expect(stepWord(1_270, "in")).toBe("tenth");
  });

  it("shows the line in thou with two decimals", () => {
    expect(lineText(48_260, "in")).toBe("1.90");
    expect(lineText(54_610, "in")).toBe("2.15");
    expect(lineText(59_500, "mm")).toBe("59.5");
  });
});
