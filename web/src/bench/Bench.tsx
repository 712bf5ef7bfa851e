import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Build, GaugeUse, Part, Session, StationAssessment } from "../api/client";
import { buildQuery } from "../api/queries";
import { CheckDialog } from "../gauges/CheckDialog";
import { Line, type LineView } from "../line/Line";
import { Keys } from "../shared/Keys";
import { Notice } from "../shared/Notice";
import { useShownUnit } from "../shared/units";
import { nextPhrase } from "../shared/words";
import { WorkDialog } from "../work/WorkDialog";
import { BenchKeysContext, benchKeys, namedForSure, type PressedKey } from "./BenchKeys";
import { BlindBar } from "./BlindBar";
import { BlindDialog } from "./BlindDialog";
import {
  bearingFor,
  type Cell,
  firstWanted,
  type Group,
  groupOf,
  nextTouch,
  partOf,
  placeOf,
  placesOf,
} from "./cells";
import { Entry } from "./Entry";
import { GaugeLink } from "./GaugeLink";
import { LineAside, LineIdent } from "./LineWords";
import { Results, type View } from "./Results";
import { StrikeDialog } from "./StrikeDialog";
import { TargetDialog } from "./TargetDialog";
import { type Gauges, gaugeUse, type Means, useBench } from "./useBench";
import { useEcho } from "./useEcho";

/** The bench of the build that the address names. */
export function Bench({ session }: { session: Session }) {
  const { code = "", station } = useParams();
  const build = useQuery(buildQuery(code));
  // A build that was shown stays on the screen while the server is away.
  if (!build.data)
    return build.isError ? <Notice title={`${code} is not here`} text={build.error.message} /> : null;
  const { stations, wanted } = build.data.assessment;
  const chosen = station && bearingFor(build.data, station.toUpperCase());
  const first = (wanted[0] && bearingFor(build.data, wanted[0].station)) ?? stations[0];
  const shown = chosen || first;
  return shown ? <BenchOf key={build.data.id} build={build.data} station={shown} session={session} /> : null;
}

/** A gauge that is checked in is the one in hand. */
function gaugeFor(build: Build, use: GaugeUse): string {
  const fits = build.gauges.filter((g) => g.gauge.measures === use);
  return (fits.find((g) => g.session) ?? fits[0])?.gauge.id ?? "";
}

/** References typed for the bore gauge, by row and part; until then the usual ones. */
function useReferences(build: Build) {
  const [typed, setTyped] = useState<Record<string, string>>({});
  const usual: Record<string, string> = {
    "M bore": build.usual_references.mains,
    "R bore": build.usual_references.rods,
    "M housing": build.usual_references.main_housings ?? build.usual_references.mains,
    "R housing": build.usual_references.rod_housings ?? build.usual_references.rods,
  };
  const key = (station: string, part: Part) => `${station.charAt(0)} ${part}`;
  return {
    of: (station: string, part: Part) => typed[key(station, part)] ?? usual[key(station, part)] ?? "",
    set: (station: string, part: Part, text: string) =>
      setTyped((all) => ({ ...all, [key(station, part)]: text })),
  };
}

type Open = "target" | "work" | "check" | "blind";

function BenchOf({
  build,
  station,
  session,
}: {
  build: Build;
  station: StationAssessment;
  session: Session;
}) {
  const navigate = useNavigate();
  const unit = useShownUnit(build.unit);
  const [method, setMethod] = useState<"direct" | "subtract">("direct");
  const [group, setGroup] = useState<Group>("clearance");
  const [chosenGauges, setGauges] = useState<Partial<Gauges>>({});
  const [temperatures, setTemperatures] = useState({ part: "", gauge: "" });
  const [view, setView] = useState<View>("station");
  const [lineView, setLineView] = useState<LineView>("crank");
  const [striking, setStriking] = useState<string>();
  const [open, setOpen] = useState<Open>();
  const references = useReferences(build);
  const gauges: Gauges = {
    outside: chosenGauges.outside ?? gaugeFor(build, "outside"),
    inside: chosenGauges.inside ?? gaugeFor(build, "inside"),
    wall: chosenGauges.wall ?? gaugeFor(build, "wall"),
    gap: chosenGauges.gap ?? gaugeFor(build, "gap"),
  };
  const means: Means = {
    unit,
    method,
    gauges,
    referenceFor: (cell: Cell) => references.of(cell.station, partOf(cell.feature)),
    temperatures,
  };
  const goTo = (name: string) => void navigate(`/builds/${build.code}/bench/${name}`, { replace: true });
  const bench = useBench({ build, station: station.station, by: session.login, group, means, goTo });
  const { active, text } = bench;
  const naming = /^[mpr]/i.test(text.trim());
  const { echo, error } = useEcho({
    code: build.code,
    cell: naming ? undefined : active,
    text,
    means,
    seq: build.assessment.seq,
  });
  const reading = build.readings.find((r) => r.id === striking);

  // The name of a station that cannot be continued needs no Enter.
  const named = namedForSure(text, build, station.station);
  const { setText } = bench;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what is typed matters here
  useEffect(() => {
    if (!named) return;
    setText("");
    goTo(named);
  }, [named]);

  const toPart = (part: Part) => {
    const to = groupOf(part);
    setGroup(to);
    const where = { method, group: to };
    const place = placesOf(station, method, to).find((p) => partOf(p.feature) === part);
    bench.activate(firstWanted(build, station.station, where, part) ?? (place && nextTouch(build, place)));
  };
  const changeGroup = (to: Group) => {
    setGroup(to);
    bench.activate(firstWanted(build, station.station, { method, group: to }));
  };
  const strikeLast = () => {
    const here = build.readings.filter(
      (r) => (r.station === station.station || r.station === station.journal_at) && !r.struck,
    );
    const place = active && placeOf(active);
    const at = here.filter(
      (r) => placeOf({ ...r, method: r.method === "subtract" ? "subtract" : "direct" }) === place,
    );
    setStriking((at.at(-1) ?? here.at(-1))?.id);
  };
  const changeMethod = (to: "direct" | "subtract") => {
    setMethod(to);
    if (!active || partOf(active.feature) === "journal") return;
    bench.activate(
      firstWanted(build, station.station, { method: to, group }, partOf(active.feature)) ??
        nextTouch(build, { ...active, method: to }),
    );
  };
  const onKey = benchKeys({
    bench,
    build,
    station,
    method,
    group,
    refused: Boolean(echo?.problem),
    canForce: echo?.problem?.can_force ?? false,
    goTo,
    toPart,
    toggleMethod: () => changeMethod(method === "direct" ? "subtract" : "direct"),
    toggleView: (to) => setView((v) => (v === to ? "station" : to)),
    toggleLine: () => setLineView((v) => (v === "crank" ? "rods" : "crank")),
    toReference: () => document.getElementById("reference")?.focus(),
    strikeLast,
    setTarget: () => setOpen("target"),
    recordWork: () => setOpen("work"),
    checkGauge: () => setOpen("check"),
  });
  useKeysAnywhere(onKey);

  const { next } = build.assessment.sign_off;
  const close = () => setOpen(undefined);
  const inHand = gauges[active ? gaugeUse(active) : "inside"];
  return (
    <BenchKeysContext value={onKey}>
      <Line
        build={build}
        chosen={station.station}
        onChoose={goTo}
        ident={<LineIdent build={build} row={station.station.charAt(0)} />}
        aside={<LineAside build={build} />}
        view={lineView}
        onView={setLineView}
      />
      <BlindBar build={build} onGo={goTo} />
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,612fr)_minmax(0,668fr)] overflow-auto max-[1150px]:grid-cols-[minmax(0,560fr)_minmax(0,464fr)]">
        <Entry
          build={build}
          station={station}
          bench={bench}
          group={group}
          onGroup={changeGroup}
          onMethod={changeMethod}
          means={means}
          onGauge={(use, id) => setGauges((all) => ({ ...all, [use]: id }))}
          onCheck={() => setOpen("check")}
          reference={references.of(station.station, group === "clearance" ? "bore" : "housing")}
          onReference={(typed) =>
            references.set(station.station, group === "clearance" ? "bore" : "housing", typed)
          }
          onTemperatures={setTemperatures}
          echo={echo}
          echoError={error}
          onStrike={setStriking}
          link={<GaugeLink gauge={inHand} build={build} onReading={bench.sent} />}
        />
        <div className="relative border-l-[1.5px] border-ink bg-paper py-1 pr-6 pl-7">
          <div className="grad-down absolute inset-y-0 left-0" />
          <Results
            build={build}
            station={station}
            unit={unit}
            active={active}
            view={view}
            onView={setView}
            onTarget={() => setOpen("target")}
            onPart={(at, part) => {
              if (at !== station.station && at !== station.journal_at)
                goTo(bearingFor(build, at)?.station ?? at);
              else toPart(part);
            }}
            onBlind={() => setOpen("blind")}
          />
        </div>
      </main>
      <footer className="flex min-h-[52px] flex-none items-center gap-4 border-t border-hair bg-steel-1 px-6">
        <Keys
          keys={[
            { press: ["Enter"], does: "keep, next" },
            { press: ["J", "B", "H", "S"], does: "journal, bore, housing, shells" },
            { press: ["X"], does: "strike" },
            { press: ["W"], does: "work" },
            { press: ["G"], does: "gauge" },
            { press: ["U"], does: "proof" },
            { press: ["L"], does: "rods" },
          ]}
        />
        <div className="ml-auto flex items-center gap-3">
          <span className="text-right leading-tight font-semibold max-[1150px]:hidden">
            Next: {nextPhrase(next)}
          </span>
          {next.kind === "measure" && next.station !== station.station ? (
            <button type="button" className="btn btn-main" onClick={() => goTo(next.station)}>
              Go to {next.station}
            </button>
          ) : (
            <button
              type="button"
              className={next.kind === "measure" ? "btn" : "btn btn-main"}
              onClick={() => void navigate(`/builds/${build.code}/sheet`)}
            >
              Open the sheet
            </button>
          )}
        </div>
      </footer>
      {reading && (
        <StrikeDialog
          key={reading.id}
          build={build}
          reading={reading}
          unit={unit}
          onClose={() => setStriking(undefined)}
        />
      )}
      {open === "target" && <TargetDialog build={build} station={station} unit={unit} onClose={close} />}
      {open === "work" && <WorkDialog build={build} station={station} onClose={close} />}
      {open === "check" && <CheckDialog build={build} gauge={inHand} unit={unit} onClose={close} />}
      {open === "blind" && <BlindDialog build={build} station={station} onClose={close} />}
    </BenchKeysContext>
  );
}

/** What takes keys of its own, so that the bench leaves them alone. */
const OWN_KEYS = "input, textarea, select, [role=dialog], [role=listbox], [aria-haspopup]";

/** The keys of the bench work wherever the focus is: the hand need not find the mouse first. */
function useKeysAnywhere(onKey: (event: PressedKey) => void): void {
  const handler = useRef(onKey);
  useEffect(() => {
    handler.current = onKey;
  });
  useEffect(() => {
    const anywhere = (event: KeyboardEvent) => {
      const target = event.target as Element;
      if (target.closest(OWN_KEYS) || document.querySelector("[role=dialog]")) return;
      // A button keeps what presses it.
      if (target.closest("button, a") && (event.key === "Enter" || event.key === " ")) return;
      handler.current(event);
      // Whatever is typed belongs into the cell.
      if (!event.defaultPrevented && event.key.length === 1) {
        document.querySelector<HTMLElement>("[data-entry]")?.focus();
      }
    };
    window.addEventListener("keydown", anywhere);
    return () => window.removeEventListener("keydown", anywhere);
  }, []);
}
