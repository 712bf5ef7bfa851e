import { bearingsOf, kindOf, otherFigures } from "../api/catalog";
import type { Build, FigureAssessment, Schemas } from "../api/client";
import { FIGURE_WORD } from "../shared/words";

/** What the line shows: the layers in the order they lie in the engine, some of them with a second face. */
export type LineView =
  | "cam"
  | "cylinders"
  | "wrists"
  | "faces"
  | "along"
  | "fillets"
  | "ends"
  | "rods"
  | "crank";

type Face = {
  view: LineView;
  /** The word for what is judged on it, in the rule under the line. */
  word: string;
  /** The quantity under the line. */
  quantity: string;
  /** What its stations are. */
  stations: string;
  kinds: Schemas["PlaceKind"][];
};

/** A layer of the engine under its own name, with what is judged on it. */
export type Layer = { id: string; name: string; faces: [Face, ...Face[]] };

export const LAYERS: Layer[] = [
  {
    id: "head",
    name: "Head",
    faces: [
      {
        view: "faces",
        word: "Faces",
        quantity: "Flatness",
        stations: "D decks, H head faces",
        kinds: ["deck", "head"],
      },
    ],
  },
  {
    id: "cam",
    name: "Cam",
    faces: [
      {
        view: "cam",
        word: "Clearance",
        quantity: "Cam clearance",
        stations: "C in their bearings, CE end play",
        kinds: ["cam", "cam_thrust"],
      },
    ],
  },
  {
    id: "cylinders",
    name: "Cylinders",
    faces: [
      {
        view: "cylinders",
        word: "To wall",
        quantity: "Piston to wall",
        stations: "the place nearest its limit",
        kinds: ["cylinder"],
      },
      {
        view: "wrists",
        word: "Wrist pins",
        quantity: "Pin in its piston",
        stations: "W wrist pins",
        kinds: ["wrist_pin"],
      },
    ],
  },
  {
    id: "along",
    name: "Along",
    faces: [
      {
        view: "along",
        word: "Play",
        quantity: "Axial play",
        stations: "E crank, S rod sides",
        kinds: ["thrust", "side"],
      },
      {
        view: "fillets",
        word: "Fillets",
        quantity: "Shell to fillet, least",
        stations: "a shell may never ride on it",
        kinds: ["main_fillet", "pin_fillet"],
      },
      {
        view: "ends",
        word: "Ends",
        quantity: "Runout of the ends",
        stations: "K1 nose, K2 flange",
        kinds: ["crank_end"],
      },
    ],
  },
  {
    id: "crank",
    name: "Crank",
    faces: [
      { view: "crank", word: "Clearance", quantity: "Oil clearance", stations: "mains, pins", kinds: [] },
      { view: "rods", word: "Rods", quantity: "Oil clearance", stations: "rods", kinds: [] },
    ],
  },
];

const FACES = LAYERS.flatMap((l) => l.faces);

/** What is said of a face of the line. */
export function faceOf(view: LineView): Face {
  return FACES.find((f) => f.view === view) ?? (FACES.at(-1) as Face);
}

/** What is measured on a face in this engine: on rollers no oil clearance. */
export function quantityOf(build: Build, view: LineView): string {
  const crank = view === "crank" || view === "rods";
  const first = bearingsOf(build, view === "rods" ? "rods" : "mains")[0];
  return crank && first ? FIGURE_WORD[first.figure] : faceOf(view).quantity;
}

/** The layer that shows it. */
export function layerShowing(view: LineView): Layer {
  return LAYERS.find((l) => l.faces.some((f) => f.view === view)) ?? (LAYERS.at(-1) as Layer);
}

/** The face on which something is measured, where it has one of its own. */
export function layerOf(place: string): LineView | undefined {
  const kind = kindOf(place);
  return FACES.find((f) => f.kinds.includes(kind))?.view;
}

/** Whether something at a place belongs to the layer that is shown. */
export function isOnLayer(view: LineView, place: string): boolean {
  return layerShowing(layerOf(place) ?? "crank") === layerShowing(view);
}

/** What is measured next on a layer: there first, then wherever the build goes on. */
export function nextOn(build: Build, view: LineView, at: string): Schemas["Next"] {
  const { next, blocks } = build.assessment.sign_off;
  if (next.kind !== "measure" || isOnLayer(view, next.station)) return next;
  const open = blocks.filter((b) => b.needs === "measure" || b.needs === "measure_again");
  const here = [...new Set(open.map((b) => b.station))].filter((s) => s !== at && isOnLayer(view, s));
  return here[0] ? { kind: "measure", station: here[0], open: here.length } : next;
}

/** How far along the crank a place stands, in mains from the front. */
function alongTheCrank({ layout }: Build, place: string): number {
  const n = Number(place.replace(/\D/g, ""));
  const pins = layout.crank.bays.flatMap((bay, i) => bay.map((_, j) => i + (j + 1) / (bay.length + 1)));
  const perPin = layout.rods?.per_pin ?? 1;
  switch (kindOf(place)) {
    case "deck":
      return 0.5 + (n - 1) / 100;
    case "head":
      return layout.mains - 1.5 + (n - 1) / 100;
    case "crank_end":
      return n === 1 ? -1 : layout.mains;
    case "thrust":
      return Number(layout.thrust.replace(/\D/g, "")) - 1;
    case "pin_fillet":
    case "side":
      return pins[n - 1] ?? n;
    case "cylinder":
    case "wrist_pin":
      return (pins[Math.floor((n - 1) / perPin)] ?? n) + ((n - 1) % perPin) / 100;
    default:
      return n - 1;
  }
}

/** Whether a figure is proven outside its window. */
const isOut = (f: FigureAssessment) => f.judged?.state === "tight" || f.judged?.state === "loose";

/** The stations of a face from the front: the first figure of each, or the first that is outside where that one is not. */
export function stationsOn(build: Build, view: LineView): FigureAssessment[] {
  const { kinds } = faceOf(view);
  const there = otherFigures(build).filter((f) => kinds.includes(kindOf(f.station)));
  const shown = (station: string) => {
    const of = there.filter((f) => f.station === station);
    const [first] = of;
    return first && isOut(first) ? first : (of.find((f) => f.asked && isOut(f)) ?? first);
  };
  const once = there.filter((f) => shown(f.station) === f);
  return once.sort((a, b) => alongTheCrank(build, a.station) - alongTheCrank(build, b.station));
}

/** The faces that an engine has. */
export function facesOf(build: Build, layer: Layer): Face[] {
  return layer.faces.filter((f) => {
    if (f.view === "crank") return true;
    return f.view === "rods" ? bearingsOf(build, "rods").length > 0 : stationsOn(build, f.view).length > 0;
  });
}

/** What is judged next on the same layer; nothing where it is one thing only. */
export function faceAfter(build: Build, view: LineView): Face | undefined {
  const faces = facesOf(build, layerShowing(view));
  const to = faces[(faces.findIndex((f) => f.view === view) + 1) % faces.length];
  return to?.view === view ? undefined : to;
}
