import { useState } from "react";
import { Link } from "react-router";
import type { Build, Schemas } from "../api/client";
import { Figure } from "../shared/Figure";
import { useShownUnit } from "../shared/units";
import { CheckDialog } from "./CheckDialog";
import { CAUSE_WORD, CHECK_WORD } from "./words";

type Suspicion = Schemas["Suspicion"];

const SPEAKS: Record<Schemas["CheckSays"], string> = {
  confirms: "speaks for it",
  kills: "speaks against it",
  leaves_open: "is off the other way, which leaves the question open",
};

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
  fatigued_shell: {
    title: "A shell at its end, or badly bonded",
    because: "Pits, or its lining has lifted",
  },
  low_nip: { title: "A shell that moves in its housing", because: "Its back is fretted or dark" },
  pitted_wall: { title: "Water or dirt in the wall", because: "Pits, or a line of rust" },
  scuffed_wall: { title: "A piston has run on its wall", because: "Scores, scuffs" },
  worn_wall: { title: "A worn cylinder", because: "A ridge where the rings turn" },
  glazed: { title: "Rings that never seated", because: "Glazed; on one side: a rod or pin out of line" },
  distorted_wall: { title: "Round alone, not bolted together", because: "Four corners of the wall" },
  seized_hot: { title: "Seized, or nearly", because: "Four corners of the piston" },
  detonation: { title: "Detonation", because: "A melted edge" },
  debris_through: { title: "Something hard went through", because: "Dents in the crown" },
  rings_stuck: { title: "Rings that cannot move", because: "A ring is stuck in its groove" },
  rings_butted: { title: "Rings whose ends touched", because: "Bright ends" },
  rings_fluttered: { title: "Rings that fluttered", because: "Marks of flutter, or an edge worn" },
  pin_loose: { title: "A wrist pin that is loose", because: "Its boss or bush is worn" },
  fasteners_let_go: { title: "Fasteners that let go", because: "A stretched bolt, a fretted seat" },
  rod_got_hot: { title: "A rod that got hot", because: "Blue" },
  coating_worn: { title: "A coating that wore off", because: "Bare patches" },
  joint_leaks: { title: "A joint that leaks", because: "A track, fretting or erosion of the face" },
  lobe_fails: { title: "A lobe that fails", because: "Pits, flakes or an edge" },
  cracked: { title: "Cracked", because: "A crack was seen" },
  valves_fail: { title: "Valves that fail", because: "Pits, burnt or bent; a worn guide" },
  hub_loose: {
    title: "A hub that moves",
    because: "A slipped ring, fretting or heat: the crank shook, or it was loose",
  },
  pump_scored: { title: "A pump that swallowed something", because: "Scores or grit in the pump" },
  reground_before: {
    title: "Reground before",
    because: "Journals measure a class under: buy shells by measurement, not by engine model",
  },
};

function Causes({ causes }: { causes: Schemas["WeighedCause"][] }) {
  return (
    <ul className="mt-1 flex flex-wrap gap-x-3 text-small" aria-label="What may be behind it">
      {causes.map((c) => (
        <li key={c.cause} data-cause={c.cause} data-share={c.share}>
          <span className={c.killed_by ? "line-through decoration-2" : ""}>
            <b className="num">{c.share}</b> in 100 {CAUSE_WORD[c.cause]}
          </span>
          {c.killed_by && <span className="text-ink-2"> (killed by {CHECK_WORD[c.killed_by]})</span>}
        </li>
      ))}
    </ul>
  );
}

const FOUND_WORD: Record<Schemas["CheckFound"], string> = { good: "found good", bad: "found bad" };

type ConfirmLineProps = {
  build: Build;
  confirm: Schemas["Confirm"];
  next: boolean;
  onRecord: () => void;
};

/** A check with where it is measured, what it said, and the way to record one that was done elsewhere. */
function ConfirmLine({ build, confirm: c, next, onRecord }: ConfirmLineProps) {
  const unit = useShownUnit(build.unit);
  const name = c.at ? `${CHECK_WORD[c.by]}, ${c.at}` : CHECK_WORD[c.by];
  return (
    <li className="flex items-baseline gap-2" data-check={c.by}>
      <span className="flex-1">
        {c.at ? (
          <Link
            className="font-semibold text-dye underline underline-offset-2"
            to={`/builds/${build.code}/bench/${c.at}`}
          >
            {name}
          </Link>
        ) : (
          name
        )}
        {c.minutes != null && <span className="text-ink-2"> {c.minutes} min</span>}
        {next && (
          <b className="ml-1 border border-ink px-1" data-next={c.by}>
            tells most
          </b>
        )}
        {c.tested && (
          <span className="ml-1" data-tested={c.tested.says}>
            <Figure nm={c.tested.value} unit={unit} className="font-bold" /> at {c.tested.at}{" "}
            {SPEAKS[c.tested.says]}
          </span>
        )}
        {!c.tested && c.found && <b className="ml-1">{FOUND_WORD[c.found]}</b>}
      </span>
      <button
        type="button"
        className="text-small font-semibold text-dye underline underline-offset-2"
        aria-label={`Done: ${CHECK_WORD[c.by]}`}
        onClick={onRecord}
      >
        Done
      </button>
    </li>
  );
}

/** What the wear suggests over the whole engine, each with the checks that would confirm or kill it. */
export function Hypotheses({ build }: { build: Build }) {
  const { hypotheses } = build.assessment;
  const first = hypotheses.find((h) => h.next?.first)?.next;
  const [asked, setAsked] = useState<Schemas["Check"] | null>(null);
  return (
    <>
      <h2 className="text-lead font-bold">What it suggests</h2>
      <p className="text-small text-ink-2">
        Hypotheses, never a verdict: each stands until its check confirms or kills it.
        {first && (
          <>
            {" "}
            <b className="text-ink" data-next-of-all={first.check}>
              Do first: {CHECK_WORD[first.check]}, {first.minutes} min.
            </b>
          </>
        )}
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
            <Causes causes={h.causes ?? []} />
            <ul className="mt-1 grid gap-y-0.5 text-small">
              {h.confirm.map((c) => (
                <ConfirmLine
                  key={c.by}
                  build={build}
                  confirm={c}
                  next={h.next?.check === c.by}
                  onRecord={() => setAsked(c.by)}
                />
              ))}
            </ul>
          </li>
        ))}
      </ol>
      {asked && <CheckDialog build={build} check={asked} at={null} onClose={() => setAsked(null)} />}
    </>
  );
}
