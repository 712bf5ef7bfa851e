import { Link } from "react-router";
import type { Build, Schemas } from "../api/client";
import { Figure } from "../shared/Figure";
import { useShownUnit } from "../shared/units";

type Suspicion = Schemas["Suspicion"];

const SUSPICION: Record<Suspicion, { title: string; because: string }> = {
  stop_journal: { title: "To the grinder", because: "A nail catches, a crack or heat colour" },
  shells_on_fillet: {
    title: "The shells ride on the fillet",
    because: "Edges next to the fillets on most rods",
  },
  bent_rod: { title: "A bent or twisted rod", because: "One edge, changing sides" },
  crank_or_tunnel: {
    title: "Crank bent, tunnel out of line, or a cap shifted",
    because: "Mains worn unevenly",
  },
  tight_or_wrong_undersize: {
    title: "Clearance too tight, or the wrong undersize fitted",
    because: "Most shells worn to the underlayer",
  },
  thrust_load: { title: "Constant load on the thrust, or its end play", because: "Thrust worn on one side" },
  dirt_or_starvation: { title: "Dirt, or oil starvation", because: "Spots, grit or scored journals" },
  cap_shifted_or_crush: {
    title: "A cap shifted, too little crush, or lugging",
    because: "Worn at the parting line",
  },
  one_bearing: {
    title: "One bearing: its cap, dirt under the shell, or the shell",
    because: "It alone of its row is worn",
  },
  one_sided_load: { title: "A rod or cap out of line", because: "One side of a half carries" },
  hot_or_overloaded: {
    title: "Too hot or too heavily loaded",
    because: "Heat, wiped or worn in the middle: lugging, detonation, thin oil",
  },
  fretting_seat: { title: "A seat that frets", because: "Chatter: fit, fasteners, or size" },
  ridge_between_tracks: {
    title: "A step between tracks",
    because: "A ridge: one rod tight or dirty, or the grinder's step",
  },
  oil_stood: { title: "Oil or acid stood on it", because: "A dark stain" },
  seal_cut_in: { title: "The seal's lip has cut in", because: "A groove where the seal runs" },
  reground_before: {
    title: "Reground before",
    because: "Journals measure a class under: buy shells by measurement, not by engine model",
  },
};

const CHECK: Record<Schemas["ConfirmBy"], string> = {
  crack_test: "crack test, by somebody qualified",
  journal_size: "journal size",
  housing_size: "housing size",
  bearing_taper: "bore, front against rear",
  fillet_clearance: "fillet clearance; narrowed shells",
  rod_alignment: "rod alignment",
  runout: "runout",
  straight_edge: "straight edge in the tunnel",
  shell_stamp: "stamp on the old shells",
  end_play: "end play",
  release_load: "release load",
  oil_path: "cleaning, oil path, the pump",
  dowels: "dowels",
  wall_taper: "wall along the shell",
  finest_polish: "the finest grit, and look again",
  groove_depth: "depth of the groove; a sleeve",
  fasteners: "fasteners: stretch, threads",
};

/** What the wear suggests over the whole engine, each with the checks that would confirm or kill it. */
export function Hypotheses({ build }: { build: Build }) {
  const unit = useShownUnit(build.unit);
  const { hypotheses } = build.assessment;
  return (
    <>
      <h2 className="text-lead font-bold">What it suggests</h2>
      <p className="text-small text-ink-2">
        Hypotheses, never a verdict: each stands until its check confirms or kills it.
      </p>
      {hypotheses.length === 0 && (
        <p className="mt-3">
          {build.inspections.length === 0
            ? "Nothing was looked at yet. Clean the parts, look at every shell and run a nail over every journal."
            : "Nothing that was seen points anywhere."}
        </p>
      )}
      <ol className="mt-1">
        {hypotheses.map((h) => (
          <li
            key={h.suspicion}
            data-suspicion={h.suspicion}
            data-says={h.says ?? "open"}
            className={`border-b border-hair py-2 ${h.suspicion === "stop_journal" ? "bg-steel-2 px-2" : ""}`}
          >
            <div className="flex gap-3">
              <b className={`flex-1 ${h.says === "kills" ? "line-through decoration-2" : ""}`}>
                {SUSPICION[h.suspicion].title}
              </b>
              {h.says && (
                <b
                  className={
                    h.says === "kills"
                      ? "border border-ink px-1.5 text-small"
                      : "bg-ink px-1.5 text-small text-white"
                  }
                >
                  {h.says === "kills" ? "killed" : "confirmed"}
                </b>
              )}
              <span className="num text-small">{h.stations.join(" ")}</span>
            </div>
            <div className="text-small text-ink-2">{SUSPICION[h.suspicion].because}</div>
            <ul className="mt-1 flex flex-wrap gap-x-3 gap-y-1 text-small">
              {h.confirm.map((c) => (
                <li key={c.by}>
                  {c.at ? (
                    <Link
                      className="font-semibold text-dye underline underline-offset-2"
                      to={`/builds/${build.code}/bench/${c.at}`}
                    >
                      {CHECK[c.by]}, {c.at}
                    </Link>
                  ) : (
                    <span>{CHECK[c.by]}</span>
                  )}
                  {c.tested && (
                    <span className="ml-1" data-tested={c.tested.says}>
                      <Figure nm={c.tested.value} unit={unit} className="font-bold" /> at {c.tested.at}{" "}
                      {c.tested.says === "kills" ? "kills it" : "confirms it"}
                    </span>
                  )}
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
    </>
  );
}
