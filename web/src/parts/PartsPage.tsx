import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { bearingsOf, kindOf } from "../api/catalog";
import { api, type Build, type Schemas, type Session, unwrap } from "../api/client";
import { NotedTable } from "../noted/NotedTable";
import { useNotes } from "../noted/useNotes";
import { BuildFrame, WithBuild } from "../page/BuildPage";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { useShownUnit } from "../shared/units";
import { capital, dayText, PART_KIND_WORD } from "../shared/words";
import { AssignDialog } from "./AssignDialog";
import { CrankTable } from "./CrankTable";
import { CondemnPart, EnterPart } from "./PartDialogs";

type Part = Schemas["PartView"];
const SURFACE: Schemas["Note"][] = ["roughness", "hardness"];

type Open = { what: "enter" } | { what: "condemn" | "choose"; part: Part } | undefined;

/** The parts of a build: what stands in the engine, what lies beside it, and the cranks side by side. */
export function PartsPage({ session }: { session: Session }) {
  return <WithBuild>{(build) => <PartsOf build={build} session={session} />}</WithBuild>;
}

function PartsOf({ build, session }: { build: Build; session: Session }) {
  const unit = useShownUnit(build.unit);
  const navigate = useNavigate();
  const [open, setOpen] = useState<Open>();
  const cranks = useQuery({
    queryKey: ["cranks", build.code, build.assessment.seq],
    queryFn: () =>
      unwrap(api.GET("/api/v1/builds/{build}/cranks", { params: { path: { build: build.code } } })),
  });
  const rows = cranks.data?.[0]?.rows ?? [];
  const { measure, concede } = session.capabilities;
  const close = () => setOpen(undefined);
  const beside = build.parts.filter((p) => p.entered != null || p.condemned != null || !p.stands);
  return (
    <BuildFrame
      build={build}
      actions={
        measure && (
          <button type="button" className="btn btn-main" onClick={() => setOpen({ what: "enter" })}>
            Enter a part
          </button>
        )
      }
    >
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,840fr)_minmax(0,440fr)] relative overflow-auto">
        <section aria-label="Cranks" className="min-w-0 px-6 pt-3 pb-4">
          <h2 className="text-lead font-bold">
            {(cranks.data?.length ?? 0) > 1 ? "Cranks side by side" : "The crank"}
          </h2>
          <div className="grad mt-1" />
          <ProblemNote problem={cranks.error} />
          {cranks.data && rows.length > 0 && <CrankTable cranks={cranks.data} unit={unit} />}
          {cranks.data && rows.length === 0 && (
            <p className="mt-2 leading-snug">
              No shells run on it: nothing of it is chosen by classes. How it runs stands at its mains and at
              its ends.
            </p>
          )}
          <Surfaces build={build} />
        </section>
        <section
          aria-label="Parts"
          className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-4 pl-7"
        >
          <div className="grad-down absolute inset-y-0 left-0" />
          <h2 className="text-lead font-bold">Parts</h2>
          {beside.length === 0 && (
            <p className="mt-1 text-small leading-snug text-ink-2">
              Every part is the one that came with the engine. Enter another crank to measure it beside this
              one and to compare the two, or a spare rod to put in.
            </p>
          )}
          <ul>
            {beside.map((p) => (
              <PartItem
                key={p.tag}
                part={p}
                may={concede}
                onMeasure={() =>
                  void navigate(`/builds/${build.code}/bench?part=${encodeURIComponent(p.tag)}`)
                }
                onChoose={() => setOpen({ what: "choose", part: p })}
                onCondemn={() => setOpen({ what: "condemn", part: p })}
              />
            ))}
          </ul>
          <h3 className="mt-4 font-bold">In the engine</h3>
          <ul className="mt-1 flex flex-wrap gap-1.5">
            {build.parts
              .filter((p) => p.stands)
              .map((p) => (
                <li key={p.tag}>
                  <button
                    type="button"
                    disabled={!concede}
                    data-stands={p.tag}
                    title={p.condemned ? p.condemned.reason : `Condemn ${p.tag}`}
                    onClick={() => setOpen({ what: "condemn", part: p })}
                    className={`h-8 border px-2 text-small font-semibold ${
                      p.condemned
                        ? "border-ink bg-ink text-white line-through"
                        : "border-hair-strong bg-paper"
                    }`}
                  >
                    {p.tag}
                    {p.place && p.place !== p.tag && (
                      <span className="ml-1 font-normal text-ink-2">at {p.place}</span>
                    )}
                  </button>
                </li>
              ))}
          </ul>
          <p className="mt-2 text-note leading-snug text-ink-2">
            Pressed, a part opens: there it is condemned, with a reason. What was measured belongs to the part
            and goes where it goes.
          </p>
        </section>
      </main>
      {open?.what === "enter" && <EnterPart build={build} onClose={close} />}
      {open?.what === "condemn" && <CondemnPart build={build} part={open.part} onClose={close} />}
      {open?.what === "choose" && <Choose build={build} part={open.part} onClose={close} />}
    </BuildFrame>
  );
}

/** How smooth and how hard the journals of the crank in the engine are. */
function Surfaces({ build }: { build: Build }) {
  const columns = useNotes(build).data?.columns.filter((c) => SURFACE.includes(c.note)) ?? [];
  const places = new Set(columns.flatMap((c) => c.places).map((p) => p.at));
  const rows = (["main", "pin"] as const).map((kind) => ({
    kind,
    stations: [...places].filter((place) => kindOf(place) === kind),
  }));
  return (
    <>
      <div className="grid grid-cols-2 gap-x-8">
        {rows
          .filter(({ stations }) => stations.length > 0)
          .map(({ kind, stations }) => (
            <NotedTable
              key={kind}
              build={build}
              title={`Surface of the ${kind}s`}
              of={capital(kind)}
              stations={stations}
              notes={SURFACE}
            />
          ))}
      </div>
      <p className="mt-1 text-note text-ink-2">
        Of the crank in the engine; Enter keeps a figure. Ra along the axis, by gauge or comparator; hardness
        beside the oil hole, by somebody who does it daily. A polish or a grind ends both.
      </p>
    </>
  );
}

type PartItemProps = {
  part: Part;
  may: boolean;
  onMeasure: () => void;
  onChoose: () => void;
  onCondemn: () => void;
};

/** A part that was entered, condemned, or taken out. */
function PartItem({ part: p, may, onMeasure, onChoose, onCondemn }: PartItemProps) {
  const small = "btn min-h-9 px-3 text-small";
  return (
    <li className="border-b border-hair-strong py-2" data-part={p.tag}>
      <div className="flex items-baseline gap-2">
        <b>{p.tag}</b>
        <span className="text-small text-ink-2">
          {PART_KIND_WORD[p.kind]},{" "}
          {p.condemned
            ? "condemned"
            : p.stands
              ? `in the engine${p.place ? ` at ${p.place}` : ""}`
              : "beside it"}
        </span>
      </div>
      {p.entered && (
        <p className="text-small leading-snug">
          {p.provenance}
          {p.marks !== "" && `; ${p.marks}`}
          <span className="ml-1 text-note text-ink-2">
            {p.entered.by.name}, {dayText(p.entered.at)}
          </span>
        </p>
      )}
      {p.condemned && (
        <p className="text-small font-semibold">
          {p.condemned.reason}
          <span className="ml-1 text-note font-normal text-ink-2">
            {p.condemned.by.name}, {dayText(p.condemned.at)}
          </span>
        </p>
      )}
      <div className="mt-1 flex gap-2">
        {p.candidate && !p.condemned && (
          <button type="button" className={small} onClick={onMeasure}>
            Measure it
          </button>
        )}
        {!p.stands && !p.condemned && may && (
          <button type="button" className={small} onClick={onChoose}>
            Put it in
          </button>
        )}
        {may && (
          <button type="button" className={small} onClick={onCondemn}>
            {p.condemned ? "Take it up again" : "Condemn it"}
          </button>
        )}
      </div>
    </li>
  );
}

/** Puts a part in: at once where an engine has one of its kind, else at a place that is chosen. */
function Choose({ build, part, onClose }: { build: Build; part: Part; onClose: () => void }) {
  const rods = bearingsOf(build, "rods").map((s) => s.station);
  const [place, setPlace] = useState<string>();
  const single = part.candidate;
  if (!single && place === undefined) {
    return <WhichPlace part={part} places={rods} onChoose={setPlace} onClose={onClose} />;
  }
  const moves = [single ? { part: part.tag } : { part: part.tag, place: place ?? null }];
  return (
    <AssignDialog build={build} title={`Put ${part.tag} in`} moves={moves} onClose={onClose}>
      {single
        ? "What was measured of it counts from now on; what was measured of the other one is kept with that one. Pairs that were parted are measured again."
        : "The rod that stands there now is out, with everything that was measured of it."}
    </AssignDialog>
  );
}

type WhichPlaceProps = {
  part: Part;
  places: string[];
  onChoose: (place: string) => void;
  onClose: () => void;
};

function WhichPlace({ part, places, onChoose, onClose }: WhichPlaceProps) {
  return (
    <Sheetlet open title={`Where does ${part.tag} go?`} onClose={onClose}>
      <div className="mt-3 flex flex-wrap gap-2">
        {places.map((p) => (
          <button key={p} type="button" className="btn" onClick={() => onChoose(p)}>
            {p}
          </button>
        ))}
      </div>
    </Sheetlet>
  );
}
