import { hasMaximumOnly, hasMinimumOnly, isBearing } from "../api/catalog";
import type { Build, FigureAssessment, Row, Schemas } from "../api/client";
import { isOnLayer, type LineView } from "../line/layers";
import { Figure } from "../shared/Figure";
import { LimitsText } from "../shared/Limits";
import { useShownUnit } from "../shared/units";
import { FIGURE_WORD } from "../shared/words";

/** What the band says about a row of the build, left of the crank. */
export function LineIdent({ build, row, of }: { build: Build; row: Row; of?: FigureAssessment }) {
  const unit = useShownUnit(build.unit);
  if (of && !isBearing(of)) {
    const limits = of.target?.window;
    return (
      <>
        {FIGURE_WORD[of.figure]}
        <br />
        {limits ? (
          <>
            <span className="first-letter:uppercase">
              <LimitsText f={of} unit={unit} />
            </span>
            {!hasMaximumOnly(of) && !hasMinimumOnly(of) && (
              <>
                <br />
                Aim <Figure nm={limits.aim} unit={unit} as="clearance" short />
              </>
            )}
          </>
        ) : (
          "No target yet"
        )}
      </>
    );
  }
  const rods = row === "rods" && build.layout.rods;
  const assessed = build.assessment.rows.find((r) => r.row === row);
  const target = assessed?.target;
  const window = target?.window;
  const nominal = rods ? rods.pin : build.layout.main_journal;
  const undersize = assessed?.undersize;
  return (
    <>
      {rods ? "Pins" : "Mains"} <Figure nm={nominal} unit={unit} />
      {undersize ? (
        <>
          , <Figure nm={undersize} unit={unit} as="clearance" short /> under
        </>
      ) : null}
      {window && (
        <>
          <br />
          {/* Beside a narrow drawing there is no room for the word. */}
          <span className="max-[1100px]:sr-only">Window</span>{" "}
          <Figure nm={window.low} unit={unit} as="clearance" short /> to{" "}
          <Figure nm={window.high} unit={unit} as="clearance" short />
          <br />
          Aim <Figure nm={window.aim} unit={unit} as="clearance" short />
          {target?.rule.kind === "hot" && ", cold by a hot target"}
        </>
      )}
      {build.layout.crank.proportional && (
        <>
          <br />
          Crank drawn in proportion{build.layout.crank.throws_said ? "" : ", its throws guessed"}
        </>
      )}
    </>
  );
}

const NEEDS: Record<Schemas["Needs"], string> = {
  part: "without a part that may stay",
  picture: "wants a picture",
  clean: "to wash or flush",
  check: "to check",
  hot_room: "too little room when hot",
  grinder: "to the grinder",
  settle: "to settle",
  measure_again: "to measure again",
  measure: "to measure",
  lead_concession: "tight",
  concession: "loose or over",
  acknowledgement: "on the edge",
  remedy: "to put right",
};

const HEAD: Record<Schemas["SealStatus"], string> = {
  blocked: "Still to do",
  ready: "Still to do",
  sealed: "Sealed",
  does_not_match: "Not as it was signed",
};

type LineAsideProps = { build: Build; brief?: boolean; view?: LineView };

/** What is still to do, right of the crank; on the bench, what is to do on the layer that is shown. */
export function LineAside({ build, brief = false, view }: LineAsideProps) {
  const { status } = build.assessment.sign_off;
  const every = build.assessment.sign_off.blocks;
  const blocks = view ? every.filter((b) => isOnLayer(view, b.station)) : every;
  const groups = (Object.keys(NEEDS) as Schemas["Needs"][])
    .map((needs) => ({ needs, stations: blocks.filter((b) => b.needs === needs).map((b) => b.station) }))
    .filter((g) => g.stations.length > 0);
  if (brief) {
    const all = groups.flatMap((g) => g.stations);
    return (
      <>
        <div className="font-bold text-white">{HEAD[status]}</div>
        {status === "ready" && "Two signatures"}
        {status === "blocked" && listed(all, BRIEFLY_NAMED)}
      </>
    );
  }
  // What comes first is named, the rest is counted: there is room for no more beside the crank.
  const shown = groups.slice(0, MOST_KINDS);
  const named = shown.reduce((sum, g) => sum + g.stations.length, 0);
  const left = every.length - named;
  const most = shown.length > 2 ? 4 : MOST_NAMED;
  return (
    <>
      <div className="mb-1 font-bold text-white">{HEAD[status]}</div>
      {shown.map((g) => (
        <div key={g.needs} className="leading-tight">
          <b className="text-white">{listed(g.stations, most)}</b> {NEEDS[g.needs]}
        </div>
      ))}
      {view && shown.length === 0 && status === "blocked" && (
        <div className="leading-tight text-white">nothing on this layer</div>
      )}
      {left > 0 && <div className="leading-tight">and {left} more on the sheet</div>}
      {status === "ready" && "Two signatures"}
    </>
  );
}

/** Kinds of work that are named. */
const MOST_KINDS = 3;
/** Names that stand in a row before the rest is only counted. */
const MOST_NAMED = 8;
/** The same in the slit, which has two lines. */
const BRIEFLY_NAMED = 4;

/** Names in a row; runs of them from first to last. */
function listed(stations: string[], most: number): string {
  const runs: string[][] = [];
  const letters = (s: string) => s.replace(/\d+$/, "");
  const number = (s: string) => Number(s.slice(letters(s).length));
  // A station with several figures is named once, where it stands first.
  for (const s of new Set(stations)) {
    const last = runs.at(-1)?.at(-1);
    const follows = last && letters(last) === letters(s) && number(s) === number(last) + 1;
    if (follows) runs.at(-1)?.push(s);
    else runs.push([s]);
  }
  const words = runs.flatMap((r) => (r.length > 2 ? [`${r[0]}\u2013${r.at(-1)}`] : r));
  const more = words.length - most;
  // One that is left over needs no more room than the words for it.
  return more > 1 ? `${words.slice(0, most).join(", ")} and ${more} more` : words.join(", ");
}
