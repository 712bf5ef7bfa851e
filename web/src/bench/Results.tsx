import { CamView } from "../along/CamView";
import { FilletView } from "../along/FilletView";
import { NarrowView } from "../along/NarrowView";
import { WasherView } from "../along/WasherView";
import {
  characteristicRow,
  groupOf,
  hasMaximumOnly,
  hasMinimumOnly,
  isBearing,
  kindOf,
} from "../api/catalog";
import type { Build, FigureAssessment, PositionAssessment, Role, Unit } from "../api/client";
import { Barrel } from "../cylinders/Barrel";
import { BlockView } from "../cylinders/BlockView";
import { BoresView } from "../cylinders/BoresView";
import { BoringView } from "../cylinders/BoringView";
import { StrokesView } from "../cylinders/StrokesView";
import { Mark, stateHue } from "../marks/Mark";
import { PicturesView } from "../pictures/PicturesView";
import { CrossSection } from "../section/CrossSection";
import { Segments } from "../shared/Choice";
import { Figure } from "../shared/Figure";
import { stepPhrase } from "../shared/figure";
import { useWidth } from "../shared/useWidth";
import {
  FIGURE_WORD,
  METHOD_WORD,
  marked,
  PART_PLACE,
  PART_WORD,
  staleText,
  verdictSentence,
} from "../shared/words";
import { Tape } from "../tape/Tape";
import { CrankView } from "./CrankView";
import type { Cell } from "./cells";
import { Facts } from "./Facts";
import { Proof } from "./Proof";
import { StraightView } from "./StraightView";
import type { TargetOf } from "./TargetDialog";

export type View = "station" | "proof" | "pictures" | Special;

type Special =
  | "crank"
  | "runout"
  | "washers"
  | "narrow"
  | "cam"
  | "fillet"
  | "bores"
  | "boring"
  | "hone"
  | "file"
  | "block";

type ResultsProps = {
  build: Build;
  station: FigureAssessment;
  unit: Unit;
  active: Cell | undefined;
  view: View;
  onView: (view: View) => void;
  onTarget: (of: TargetOf) => void;
  onPart: (station: string, part: Role) => void;
  onBlind: () => void;
};

/** Drawn gap on each side when the clearance is on its aim, in pixels. */
const GAP_AT_AIM = 15;
/** Pixels of the drawn journal's radius. */
const DRAWN_RADIUS = 50;

/** What the figures mean: the number, its mark, its tape, its section. */
export function Results(props: ResultsProps) {
  const { build, station, unit, view, onView } = props;
  const [ref, width] = useWidth(616);
  const specials = specialsOf(station);
  // More than three would squeeze the figure: they stand above it.
  const many = specials.length > 0;
  // The view of another station that this one does not have shows the station itself.
  const special = specials.find((s) => s.value === view)?.value;
  return (
    <section ref={ref} aria-label="What it means" className="min-w-0">
      <div
        className={`flex min-h-[84px] items-center gap-5 max-[1150px]:flex-wrap max-[1150px]:gap-x-3 max-[1150px]:gap-y-0 ${many ? "flex-wrap gap-y-0" : ""}`}
      >
        <Headline station={station} unit={unit} beside={outBeside(build, station)} />
        <div
          className={`self-start pt-1 pb-2 max-[1150px]:order-first max-[1150px]:w-full ${many ? "order-first w-full" : ""}`}
        >
          <Segments
            label="View"
            value={view === "proof" || view === "pictures" ? view : (special ?? "station")}
            onChange={onView}
            options={[
              { value: "station", text: station.station },
              { value: "proof", text: "Proof" },
              { value: "pictures", text: "Pictures" },
              ...specials,
            ]}
          />
        </div>
      </div>
      {view === "proof" && <Proof build={build} station={station} unit={unit} />}
      {special === "crank" && <CrankView build={build} chosen={station.station} unit={unit} width={width} />}
      {special === "runout" && (
        <StraightView build={build} unit={unit} chosen={station.station} width={width} />
      )}
      {special === "washers" && <WasherView build={build} unit={unit} width={width} />}
      {special === "narrow" && <NarrowView build={build} station={station} unit={unit} />}
      {special === "cam" && <CamView build={build} unit={unit} chosen={station.station} />}
      {special === "fillet" && <FilletView build={build} station={station} unit={unit} width={width} />}
      {special === "bores" && <BoresView build={build} unit={unit} chosen={station.station} />}
      {special === "block" && <BlockView build={build} unit={unit} chosen={station.station} width={width} />}
      {special === "boring" && (
        <BoringView build={build} unit={unit} chosen={station.station} width={width} />
      )}
      {special === "hone" && (
        <StrokesView build={build} unit={unit} at={station.station}>
          <Barrel build={build} station={station} unit={unit} width={width} />
        </StrokesView>
      )}
      {special === "file" && <StrokesView build={build} unit={unit} at={station.station} rings />}
      {view === "pictures" && <PicturesView build={build} station={station} />}
      {view !== "proof" && view !== "pictures" && !special && <StationView {...props} width={width} />}
    </section>
  );
}

/** The views that a station has beside itself and its proof. */
function specialsOf(station: FigureAssessment): { value: Special; text: string }[] {
  const main = kindOf(station.station) === "main";
  switch (station.figure) {
    case "oil_clearance":
      return [
        { value: "crank", text: main ? "All mains" : "All rods" },
        ...(main ? [{ value: "runout" as const, text: "Runout" }] : []),
      ];
    case "end_runout":
      return [{ value: "runout", text: "Runout" }];
    case "rod_side":
      return [{ value: "narrow", text: "Narrow" }];
    case "cam_clearance":
      return [{ value: "cam", text: "Fit the cam" }];
    case "end_play":
      return [{ value: "washers", text: "Washers" }];
    case "fillet_room":
      return [{ value: "fillet", text: "Section" }];
    case "piston_to_wall":
      return [
        { value: "bores", text: "All bores" },
        { value: "boring", text: "Oversize" },
        { value: "hone", text: "Hone log" },
        { value: "block", text: "Block" },
      ];
    case "face_flatness":
      return [{ value: "block", text: "Block" }];
    case "top_ring_gap":
    case "second_ring_gap":
      return [{ value: "file", text: "File log" }];
    default:
      return [];
  }
}

/** The one large figure of the screen, which way it is off, and what the gauges prove. */
/** Other figures of the same place that are outside their windows: they are not to be missed under the one that is shown. */
function outBeside(build: Build, station: FigureAssessment): FigureAssessment[] {
  return build.assessment.figures.filter((f) => {
    const out = f.judged?.state === "tight" || f.judged?.state === "loose";
    return f.station === station.station && f.figure !== station.figure && f.asked && out;
  });
}

type HeadlineProps = { station: FigureAssessment; unit: Unit; beside: FigureAssessment[] };

function Headline({ station, unit, beside }: HeadlineProps) {
  const { judged } = station;
  const soFar = station.methods[0];
  if (judged) {
    return (
      <>
        <div
          className={`text-[60px]/none tracking-[-0.05em] max-[1150px]:text-[42px] ${stateHue(marked(station, judged.state))}`}
          data-clearance={judged.worst}
        >
          <Figure nm={judged.worst} unit={unit} as="clearance" className="font-bold" />
          {unit === "mm" && <span className="ml-2 text-title tracking-normal">µm</span>}
        </div>
        <div className="flex-1" data-state={judged.state}>
          <Mark state={marked(station, judged.state)} nearest={judged.nearest} size={28} word="text-[21px]" />
          <p className="mt-1 leading-snug max-[1150px]:text-small">{verdictSentence(judged, unit)}</p>
          {beside.map((f) => (
            <p key={f.figure} data-out-beside={f.figure} className="mt-1 flex items-center gap-2 text-small">
              {f.judged && <Mark state={marked(f, f.judged.state)} nearest={f.judged.nearest} size={14} />}
              <b>{FIGURE_WORD[f.figure]}</b>
              {f.judged && <Figure nm={f.judged.worst} unit={unit} as="clearance" className="font-bold" />}
            </p>
          ))}
        </div>
      </>
    );
  }
  const { stale, predicted } = station;
  if (predicted) {
    return (
      <>
        <div
          data-predicted-clearance={predicted.pair.clearance}
          className="text-[60px]/none tracking-[-0.05em] text-dye italic max-[1150px]:text-[42px]"
        >
          <Figure nm={predicted.pair.clearance} unit={unit} as="clearance" className="font-bold" />
        </div>
        <div className="flex-1" data-state="predicted">
          <Mark state="predicted" size={28} word="text-[21px]" />
          <p className="mt-1 leading-snug max-[1150px]:text-small">
            {predicted.pair.upper} over {predicted.pair.lower} should be {predicted.state}, to ±
            {stepPhrase(predicted.pair.expanded, unit)}. Nothing is proven until it is measured.
          </p>
        </div>
      </>
    );
  }
  if (stale) {
    return (
      <>
        <div
          data-stale-clearance={stale.was.clearance}
          className="stale-strike text-[60px]/none tracking-[-0.05em] text-ink-3 max-[1150px]:text-[42px]"
        >
          <Figure nm={stale.was.clearance} unit={unit} as="clearance" className="font-bold" />
        </div>
        <div className="flex-1" data-state="stale">
          <Mark
            state="stale"
            nearest={stale.was.nearest}
            was={stale.was.state}
            size={28}
            word="text-[21px]"
          />
          <p className="mt-1 leading-snug max-[1150px]:text-small">
            No longer evidence.{" "}
            {stale.again.length > 0
              ? `Measure the ${stale.again.map((a) => `${PART_WORD[a.part]} of ${a.station}`).join(" and the ")} again.`
              : stale.because.map((b) => staleText(b, unit)).join("; ")}
          </p>
        </div>
      </>
    );
  }
  return (
    <>
      <div className="text-[60px]/none tracking-[-0.05em] max-[1150px]:text-[42px] text-ink-3">
        {soFar ? <Figure nm={soFar.clearance} unit={unit} as="clearance" /> : <span className="num">–</span>}
      </div>
      <div className="flex-1" data-state="open">
        <Mark state="open" size={28} word="text-[21px]" />
        <p className="mt-1 leading-snug max-[1150px]:text-small">
          {soFar ? `So far, ${METHOD_WORD[soFar.method]}. ${remaining(station)}` : remaining(station)}
        </p>
      </div>
    </>
  );
}

function remaining(s: FigureAssessment): string {
  const running = s.measured.filter((m) => groupOf(m) === "running");
  const roles = [...new Set(running.map((m) => m.role))];
  const left = roles.flatMap((role) => {
    // By whichever way it is read, the one that is further.
    const open = running.filter((m) => m.role === role).map((m) => m.positions.filter(isOpen).length);
    const places = Math.min(...open);
    return places > 0 ? [{ role, places }] : [];
  });
  const text = left.map(({ role, places }, i) => {
    const count = i === 0 ? (places === 1 ? "1 place" : `${places} places`) : String(places);
    return `${count} ${PART_PLACE[role]}`;
  });
  return text.length > 0 ? `${text.join(" and ")} to touch.` : "";
}

/** Whether a place that counts was not touched yet. */
function isOpen(p: PositionAssessment): boolean {
  return !p.advisory && p.value == null;
}

/** What the section shows white: the direction on the journal, or across the bore. */
function measuredAt(cell: Cell): { what: "journal" | "bore"; angle: number } {
  const outside = characteristicRow(cell.characteristic).gauge === "outside";
  return { what: outside ? "journal" : "bore", angle: cell.position.angle };
}

type StationViewProps = ResultsProps & { width: number };

function StationView(props: StationViewProps) {
  const { build, station, unit, active, width } = props;
  const { judged, target } = station;
  const shown = judged ?? station.methods[0];
  const gap =
    shown && target
      ? Math.min(26, Math.max(5, (GAP_AT_AIM * shown.clearance) / target.window.aim))
      : GAP_AT_AIM;
  const rods = station.row === "rods" ? build.layout.rods : undefined;
  const perPixel = (rods?.pin ?? build.layout.main_journal) / 2 / DRAWN_RADIUS;
  const factor =
    shown && shown.clearance > 0 ? Math.round((gap * perPixel) / (shown.clearance / 2) / 10) * 10 : undefined;
  const others = station.methods
    .filter((m) => m.complete && m.low === m.high && m.method !== judged?.method)
    .map((m) => ({ clearance: m.clearance, name: METHOD_WORD[m.method] }));
  const promised = station.predicted?.pair ?? station.prediction?.pair;
  const predicted = promised ? [{ clearance: promised.clearance, name: "predicted" }] : [];
  const ends = judged && judged.smallest !== judged.largest ? [judged.smallest, judged.largest] : [];
  const other = ends
    .filter((nm) => nm !== judged?.worst)
    .map((clearance) => ({ clearance, name: "other end" }));
  const before = station.stale ? [{ clearance: station.stale.was.clearance, name: "before" }] : [];
  return (
    <>
      {target && (
        <Tape
          target={target.window}
          value={judged ? { ...judged, clearance: judged.worst } : undefined}
          ghosts={[...other, ...before, ...predicted, ...others]}
          unit={unit}
          width={width}
          least={hasMinimumOnly(station)}
          most={hasMaximumOnly(station)}
        />
      )}
      {station.figure === "piston_to_wall" && (
        <Barrel build={build} station={station} unit={unit} width={width} />
      )}
      <div className="mt-2 flex gap-6">
        {isBearing(station) && (
          <div className="max-[1150px]:hidden">
            <CrossSection
              around={rods ? "rod" : "block"}
              measuring={active && measuredAt(active)}
              state={judged?.state}
              gap={gap}
              factor={factor}
            />
          </div>
        )}
        <Facts {...props} onProof={() => props.onView("proof")} />
      </div>
    </>
  );
}
