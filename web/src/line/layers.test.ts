import { describe, expect, it } from "vitest";
import type { FigureAssessment, Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { faceAfter, faceOf, facesOf, LAYERS, layerOf, layerShowing, nextOn, stationsOn } from "./layers";

function at(place: string, figure: Schemas["Figure"]): FigureAssessment {
  return { ...station(1), station: place, figure };
}

const LINE = build([
  station(1),
  station(2),
  at("E", "end_play"),
  at("S1", "rod_side"),
  at("FM1", "fillet_room"),
  at("FM2", "fillet_room"),
  at("FM2", "fillet_flat"),
  at("FP1", "fillet_room"),
  at("C1", "cam_clearance"),
  at("CE", "cam_end_play"),
  at("K2", "end_runout"),
  at("K1", "end_runout"),
]);

describe("the layers of the line", () => {
  it("are where each kind of place is measured", () => {
    expect(["E", "S3", "FP2", "FM1", "C4", "CE", "B5", "W2", "K2"].map(layerOf)).toEqual([
      "along",
      "along",
      "fillets",
      "fillets",
      "cam",
      "cam",
      "cylinders",
      "wrists",
      "ends",
    ]);
    expect(layerOf("M1")).toBeUndefined();
    expect(layerShowing("fillets").id).toBe("along");
  });

  it("have each station once, from the front", () => {
    expect(stationsOn(LINE, "fillets").map((f) => `${f.station} ${f.figure}`)).toEqual([
      "FM1 fillet_room",
      "FP1 fillet_room",
      "FM2 fillet_room",
    ]);
    expect(stationsOn(LINE, "ends").map((f) => f.station)).toEqual(["K1", "K2"]);
  });

  it("have the faces that the engine has, the crank always", () => {
    const views = LAYERS.map((l) => facesOf(LINE, l).map((f) => f.view));
    expect(views).toEqual([[], ["cam"], [], ["along", "fillets", "ends"], ["crank"]]);
    expect(LAYERS.map((l) => l.name)).toEqual(["Head", "Cam", "Cylinders", "Along", "Crank"]);
    expect(faceOf("fillets").quantity).toMatch(/fillet/);
  });

  it("say what is measured next on them, and else wherever the build goes on", () => {
    const block = (station: string, needs: Schemas["Needs"]) => ({
      station,
      figure: "oil_clearance" as const,
      state: null,
      needs,
    });
    const blocks = [
      block("M2", "measure"),
      block("FM1", "acknowledgement"),
      block("FM2", "measure"),
      block("S1", "measure"),
    ];
    const of = build([station(1)], { blocks, next: { kind: "measure", station: "M2", open: 3 } });
    expect(nextOn(of, "fillets", "FM1")).toEqual({ kind: "measure", station: "FM2", open: 2 });
    expect(nextOn(of, "fillets", "FM2")).toEqual({ kind: "measure", station: "S1", open: 1 });
    expect(nextOn(of, "cam", "C1")).toMatchObject({ station: "M2" });
    expect(nextOn(of, "rods", "R1")).toMatchObject({ station: "M2" });
  });

  it("turn from face to face, and stay where there is one", () => {
    const turned = (["along", "fillets", "ends", "crank", "cam"] as const).map(
      (v) => faceAfter(LINE, v)?.word,
    );
    expect(turned).toEqual(["Fillets", "Ends", "Play", undefined, undefined]);
  });
});
