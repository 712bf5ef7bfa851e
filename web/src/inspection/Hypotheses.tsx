import { Link } from "react-router";
import type { Build, Schemas } from "../api/client";

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
    because: "Everything worn to the underlayer",
  },
  thrust_load: { title: "Constant load on the thrust, or its end play", because: "Thrust worn on one side" },
  dirt_or_starvation: { title: "Dirt, or oil starvation", because: "Spots, grit or scored journals" },
  cap_shifted_or_crush: {
    title: "A cap shifted, too little crush, or lugging",
    because: "Worn at the parting line",
  },
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
};

/** What the wear suggests over the whole engine, each with the checks that would confirm or kill it. */
export function Hypotheses({ build }: { build: Build }) {
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
            className={`border-b border-hair py-2 ${h.suspicion === "stop_journal" ? "bg-steel-2 px-2" : ""}`}
          >
            <div className="flex gap-3">
              <b className="flex-1">{SUSPICION[h.suspicion].title}</b>
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
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ol>
    </>
  );
}
