import { describe, expect, it, vi } from "vitest";
import { build, station } from "../testing/build";
import { type BenchActions, benchKeys } from "./BenchKeys";
import type { BenchState } from "./useBench";

function bench(text: string): BenchState {
  return {
    active: {
      station: "M2",
      characteristic: "main_journal",
      read: "size",
      position: { axial: "front", angle: 0 },
      touch: 1,
    },
    text,
    setText: vi.fn(),
    activate: vi.fn(),
    keep: vi.fn(),
    onTheirWay: [],
    sentBack: [],
    sent: vi.fn(),
    notYetKept: 0,
    ofOthers: 0,
    touchAgain: vi.fn(),
    clear: vi.fn(),
  };
}

function actions(text: string, more: Partial<BenchActions> = {}): BenchActions {
  return {
    bench: bench(text),
    station: station(2),
    build: build([station(1), station(2), station(3)]),
    where: { read: "dial", group: "running" },
    refused: false,
    canForce: false,
    goTo: vi.fn(),
    toPart: vi.fn(),
    toggleRead: vi.fn(),
    toggleView: vi.fn(),
    toggleLine: vi.fn(),
    stepLayer: vi.fn(),
    recordWork: vi.fn(),
    checkGauge: vi.fn(),
    toReference: vi.fn(),
    strikeLast: vi.fn(),
    setTarget: vi.fn(),
    letter: { current: "" },
    ...more,
  };
}

function press(a: BenchActions, key: string, ctrlKey = false) {
  const preventDefault = vi.fn();
  benchKeys(a)({ key, ctrlKey, altKey: false, metaKey: false, preventDefault });
  return preventDefault;
}

describe("the keys of the bench", () => {
  it("keep an entry with Enter, and not one the server refuses", () => {
    const good = actions("38");
    press(good, "Enter");
    expect(good.bench.keep).toHaveBeenCalledWith(false);
    const refused = actions("9.9", { refused: true, canForce: true });
    press(refused, "Enter");
    expect(refused.bench.keep).not.toHaveBeenCalled();
    press(refused, "Enter", true);
    expect(refused.bench.keep).toHaveBeenCalledWith(true);
  });

  it("step what is judged with F, at once or with Enter where it begins the name of a fillet", () => {
    const plain = actions("");
    press(plain, "f");
    expect(plain.toggleLine).toHaveBeenCalledTimes(1);
    const fillet = { ...station(2), station: "FM2", figure: "fillet_room" as const };
    const engine = build([station(1), station(2), fillet]);
    const waits = actions("", { build: engine });
    press(waits, "f");
    expect(waits.toggleLine).not.toHaveBeenCalled();
    const typed = actions("f", { build: engine });
    press(typed, "Enter");
    expect(typed.toggleLine).toHaveBeenCalledTimes(1);
    press(plain, "l");
    expect(plain.toggleLine).toHaveBeenCalledTimes(1);
  });

  it("go along the line with the arrows, as far as it goes, while nothing is typed", () => {
    const a = actions("");
    press(a, "ArrowRight");
    expect(a.goTo).toHaveBeenCalledWith("M3");
    const end = actions("", { station: station(3) });
    press(end, "ArrowRight");
    expect(end.goTo).toHaveBeenCalledWith("M3");
    const typing = actions("38");
    press(typing, "ArrowLeft");
    expect(typing.goTo).not.toHaveBeenCalled();
  });

  it("take letters as commands only while nothing is typed", () => {
    const a = actions("");
    expect(press(a, "X")).toHaveBeenCalled();
    expect(a.strikeLast).toHaveBeenCalled();
    press(a, "b");
    expect(a.toPart).toHaveBeenCalledWith("bore");
    press(a, "w");
    expect(a.recordWork).toHaveBeenCalled();
    press(a, "u");
    expect(a.toggleView).toHaveBeenCalledWith("proof");
    const typing = actions("24");
    expect(press(typing, "t")).not.toHaveBeenCalled();
    expect(typing.setTarget).not.toHaveBeenCalled();
  });

  it("go to a station that is named, and stay where a name means nothing", () => {
    const a = actions("m3");
    press(a, "Enter");
    expect(a.goTo).toHaveBeenCalledWith("M3");
    const nowhere = actions("m9");
    press(nowhere, "Enter");
    expect(nowhere.goTo).not.toHaveBeenCalled();
    expect(nowhere.bench.keep).not.toHaveBeenCalled();
  });

  it("empty the cell with Escape", () => {
    const a = actions("2.5");
    press(a, "Escape");
    expect(a.bench.clear).toHaveBeenCalled();
  });

  it("move up and down the places of the station", () => {
    const a = actions("");
    press(a, "ArrowDown");
    expect(a.bench.touchAgain).toHaveBeenCalledWith(
      expect.objectContaining({ position: { axial: "front", angle: 90 } }),
    );
  });

  it("go to a place by its name from everywhere, and keep nothing", () => {
    const six = build([
      station(1),
      station(2),
      { ...station(3), station: "B5" },
      { ...station(3), station: "W1" },
    ]);
    const letter = { current: "" };
    const a = actions("", { build: six, letter });
    press(a, "b");
    expect(a.toPart).toHaveBeenCalledWith("bore");
    const typed = actions("5", { build: six, letter });
    press(typed, "5");
    press(typed, "Enter");
    expect(typed.goTo).toHaveBeenCalledWith("B5");
    expect(typed.bench.keep).not.toHaveBeenCalled();
    // Without the letter, or behind another key, a digit is a figure.
    press(typed, "Enter");
    expect(typed.bench.keep).toHaveBeenCalledWith(false);
    // No such place: the part was chosen, and the figure is its own.
    press(actions("", { build: six, letter }), "b");
    const dial = actions("23", { build: six, letter });
    press(dial, "Enter");
    expect(dial.bench.keep).toHaveBeenCalledWith(false);
  });

  it("wait for a number where a letter begins a name, and do what it does with Enter alone", () => {
    const six = build([station(1), { ...station(3), station: "W1" }]);
    const a = actions("", { build: six });
    expect(press(a, "w")).not.toHaveBeenCalled();
    expect(a.recordWork).not.toHaveBeenCalled();
    press(actions("w", { build: six, recordWork: a.recordWork }), "Enter");
    expect(a.recordWork).toHaveBeenCalled();
    const mains = actions("");
    press(mains, "w");
    expect(mains.recordWork).toHaveBeenCalled();
  });
});
