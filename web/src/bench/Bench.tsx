import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import type { Build, Method, StationAssessment } from "../api/client";
import { buildQuery } from "../api/queries";
import { Line } from "../line/Line";
import { Keys } from "../shared/Keys";
import { Notice } from "../shared/Notice";
import { useShownUnit } from "../shared/units";
import { nextPhrase } from "../shared/words";
import { BenchKeysContext, benchKeys, namedStation, type PressedKey } from "./BenchKeys";
import { firstWanted, nextTouch, placeOf, placesOf } from "./cells";
import { Entry } from "./Entry";
import { LineAside, LineIdent } from "./LineWords";
import { Results, type View } from "./Results";
import { StrikeDialog } from "./StrikeDialog";
import { TargetDialog } from "./TargetDialog";
import { type Gauges, useBench } from "./useBench";
import { useEcho } from "./useEcho";

/** The bench of the build that the address names. */
export function Bench() {
  const { code = "", station } = useParams();
  const build = useQuery(buildQuery(code));
  // A build that was shown stays on the screen while the server is away.
  if (!build.data)
    return build.isError ? <Notice title={`${code} is not here`} text={build.error.message} /> : null;
  const { stations, wanted } = build.data.assessment;
  const chosen = stations.find((s) => s.station === station?.toUpperCase());
  const first = stations.find((s) => s.station === wanted[0]?.station) ?? stations[0];
  const shown = chosen ?? first;
  return shown ? <BenchOf key={build.data.id} build={build.data} station={shown} /> : null;
}

function gaugeFor(build: Build, use: "outside" | "inside"): string {
  return build.gauges.find((g) => g.measures === use)?.id ?? "";
}

function BenchOf({ build, station }: { build: Build; station: StationAssessment }) {
  const navigate = useNavigate();
  const unit = useShownUnit(build.unit);
  const [method, setMethod] = useState<Method>("direct");
  const [gauges, setGauges] = useState<Gauges>(() => ({
    main_journal: gaugeFor(build, "outside"),
    main_bearing: gaugeFor(build, "inside"),
  }));
  const [reference, setReference] = useState(build.usual_reference);
  const [view, setView] = useState<View>("station");
  const [striking, setStriking] = useState<string>();
  const [targeting, setTargeting] = useState(false);
  const goTo = (name: string) => void navigate(`/builds/${build.code}/bench/${name}`, { replace: true });
  const bench = useBench({ build, station: station.station, unit, method, gauges, reference, goTo });
  const { active, text } = bench;
  const stations = build.assessment.stations.map((s) => s.station);
  const naming = /^m/i.test(text.trim());
  const { echo, error } = useEcho({
    code: build.code,
    cell: naming ? undefined : active,
    text,
    gauges,
    reference,
    unit,
    seq: build.assessment.seq,
  });
  const reading = build.readings.find((r) => r.id === striking);

  // The name of a station that cannot be continued needs no Enter.
  const named = namedStation(text, stations);
  const { setText } = bench;
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what is typed matters here
  useEffect(() => {
    if (!named) return;
    setText("");
    goTo(named);
  }, [named]);

  const toFeature = (feature: "main_journal" | "main_bearing") => {
    const place = placesOf(station, method).find((p) => p.feature === feature);
    const cell = firstWanted(build, station.station, method, feature) ?? (place && nextTouch(build, place));
    bench.activate(cell);
  };
  const strikeLast = () => {
    const here = build.readings.filter((r) => r.station === station.station && !r.struck);
    const place = active && placeOf(active);
    const at = here.filter((r) => placeOf({ ...r, method: r.method ?? method }) === place);
    setStriking((at.at(-1) ?? here.at(-1))?.id);
  };
  const changeMethod = (to: Method) => {
    setMethod(to);
    if (active?.feature !== "main_bearing") return;
    bench.activate(
      firstWanted(build, station.station, to, "main_bearing") ?? nextTouch(build, { ...active, method: to }),
    );
  };
  const onKey = benchKeys({
    bench,
    station,
    stations,
    refused: Boolean(echo?.problem),
    canForce: echo?.problem?.can_force ?? false,
    goTo,
    toFeature,
    toggleMethod: () => changeMethod(method === "direct" ? "subtract" : "direct"),
    toggleView: () => setView((v) => (v === "station" ? "crank" : "station")),
    toReference: () => document.getElementById("reference")?.focus(),
    strikeLast,
    setTarget: () => setTargeting(true),
  });
  useKeysAnywhere(onKey);

  const { next } = build.assessment.sign_off;
  return (
    <BenchKeysContext value={onKey}>
      <Line
        build={build}
        chosen={station.station}
        onChoose={goTo}
        ident={<LineIdent build={build} />}
        aside={<LineAside build={build} />}
      />
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,612fr)_minmax(0,668fr)] overflow-auto max-[1150px]:grid-cols-[minmax(0,560fr)_minmax(0,464fr)]">
        <Entry
          build={build}
          station={station}
          unit={unit}
          bench={bench}
          method={method}
          onMethod={changeMethod}
          gauges={gauges}
          onGauges={setGauges}
          reference={reference}
          onReference={setReference}
          echo={echo}
          echoError={error}
          onStrike={setStriking}
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
            onTarget={() => setTargeting(true)}
          />
        </div>
      </main>
      <footer className="flex min-h-[52px] flex-none items-center gap-4 border-t border-hair bg-steel-1 px-6">
        <Keys
          keys={[
            { press: ["Enter"], does: "keep, next" },
            { press: ["←", "→"], does: "along the line" },
            { press: ["J", "B"], does: "journal, bore" },
            { press: ["X"], does: "strike" },
            { press: ["C"], does: "crank" },
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
      {targeting && (
        <TargetDialog build={build} station={station} unit={unit} onClose={() => setTargeting(false)} />
      )}
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
