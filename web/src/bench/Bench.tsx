import { useQuery } from "@tanstack/react-query";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import {
  bearingsOf,
  beginsAPlace,
  groupOf,
  groupsOf,
  kindOf,
  measured,
  readAt,
  roleOf,
  wholeStation,
} from "../api/catalog";
import type {
  Build,
  Characteristic,
  FigureAssessment,
  GaugeUse,
  Group,
  Read,
  Role,
  Schemas,
  Session,
} from "../api/client";
import { asIfQuery, buildQuery } from "../api/queries";
import { CheckDialog } from "../gauges/CheckDialog";
import { Line, type LineView } from "../line/Line";
import { faceAfter, facesOf, LAYERS, layerOf, layerShowing, nextOn, stationsOn } from "../line/layers";
import { LineAside, LineIdent } from "../page/LineWords";
import { NoBuild } from "../page/NoBuild";
import { Figure } from "../shared/Figure";
import { Keys } from "../shared/Keys";
import { StrikeDialog } from "../shared/StrikeDialog";
import { useShownUnit } from "../shared/units";
import { GAUGE_USE_WORD, momentText, nextPhrase, PART_KEY, PART_WORD } from "../shared/words";
import { WorkDialog } from "../work/WorkDialog";
import { BenchKeysContext, benchKeys, namedForSure, type PressedKey } from "./BenchKeys";
import { BlindBar } from "./BlindBar";
import { BlindDialog } from "./BlindDialog";
import { CandidateBar } from "./CandidateBar";
import { bearingFor, type Cell, firstWanted, nextTouch, placeOf, placesOf } from "./cells";
import { Entry } from "./Entry";
import { GaugeLink } from "./GaugeLink";
import { gaugesReaching } from "./gauges";
import { Results, type View } from "./Results";
import { TargetDialog, type TargetOf } from "./TargetDialog";
import { type Gauges, gaugeUse, type Means, useBench } from "./useBench";
import { useEcho } from "./useEcho";

/** The bench of the build that the address names. */
export function Bench({ session }: { session: Session }) {
  const { code = "", station } = useParams();
  const [search] = useSearchParams();
  const part = search.get("part") ?? undefined;
  const build = useQuery(part === undefined ? buildQuery(code) : asIfQuery(code, part));
  // A build that was shown stays on the screen while the server is away.
  if (!build.data) return build.isError ? <NoBuild code={code} error={build.error} /> : null;
  const { wanted } = build.data.assessment;
  const stations = bearingsOf(build.data);
  const chosen = station && bearingFor(build.data, station.toUpperCase());
  const first =
    (wanted[0] && bearingFor(build.data, wanted[0].station, undefined, wanted[0].track)) ?? stations[0];
  const shown = chosen || first;
  return shown ? (
    <BenchOf
      key={`${build.data.id} ${part ?? ""}`}
      build={build.data}
      station={wholeStation(build.data, shown)}
      session={session}
      part={part}
    />
  ) : null;
}

/** The one that was chosen where it reaches; else one that is checked in, among those that reach what is expected there. */
function gaugeFor(build: Build, station: FigureAssessment, use: GaugeUse, chosen?: string): string {
  const fits = gaugesReaching(build, station, use);
  if (fits.some((g) => g.gauge.id === chosen)) return chosen ?? "";
  return (fits.find((g) => g.session) ?? fits.find((g) => !g.past_due) ?? fits[0])?.gauge.id ?? "";
}

/** References typed for what is read on a dial; until then the usual ones. */
function useReferences(build: Build) {
  // What was typed outlives a page that is loaded again: a zero that is forgotten there is ten thou.
  const key = `references ${build.id}`;
  const [typed, setTyped] = useState<Partial<Record<Characteristic, string>>>(() =>
    JSON.parse(sessionStorage.getItem(key) ?? "{}"),
  );
  const [zeroes, setZeroes] = useState<Partial<Record<Characteristic, Zero>>>({});
  const usual = (of: Characteristic) => build.references.find((r) => r.characteristic === of)?.text;
  return {
    of: (of: Characteristic) => typed[of] ?? usual(of) ?? "",
    set: (of: Characteristic, text: string) => {
      const all = { ...typed, [of]: text };
      sessionStorage.setItem(key, JSON.stringify(all));
      setTyped(all);
    },
    zeroOf: (of: Characteristic) => zeroes[of],
    setZero: (of: Characteristic, zero: Zero) => setZeroes((all) => ({ ...all, [of]: zero })),
  };
}

type Zero = Schemas["ZeroSource"];

type Open = "target" | "work" | "check" | "blind";

type BenchProps = { build: Build; station: FigureAssessment; session: Session; part: string | undefined };

function BenchOf({ build, station, session, part }: BenchProps) {
  const navigate = useNavigate();
  const unit = useShownUnit(build.unit);
  const [read, setRead] = useState<Read>("dial");
  const [chosenGroup, setGroup] = useState<Group>("running");
  // Where nothing of it is measured, what is measured there is shown.
  const there = groupsOf(station);
  const group = there.includes(chosenGroup) ? chosenGroup : (there[0] ?? chosenGroup);
  const [chosenGauges, setGauges] = useState<Partial<Gauges>>({});
  const [temperatures, setTemperatures] = useState<Means["temperatures"]>({
    part: "",
    gauge: "",
    degrees: unit === "in" ? "F" : "C",
  });
  const [view, setView] = useState<View>("station");
  const layer = layerOf(station.station);
  const [chosenView, setLineView] = useState<LineView>("crank");
  // What is measured along the axis, or of the cam, is seen on its own layer.
  const lineView = layer ?? (chosenView === "rods" ? "rods" : "crank");
  const turned = faceAfter(build, lineView);
  const [striking, setStriking] = useState<string>();
  const [open, setOpen] = useState<Open>();
  const [targetOf, setTargetOf] = useState<TargetOf>();
  const references = useReferences(build);
  const uses = Object.keys(GAUGE_USE_WORD) as GaugeUse[];
  const inHandFor = (use: GaugeUse) => gaugeFor(build, station, use, chosenGauges[use]);
  const gauges = Object.fromEntries(uses.map((use) => [use, inHandFor(use)])) as Gauges;
  const means: Means = {
    unit,
    read,
    gauges,
    referenceFor: (cell: Cell) => references.of(cell.characteristic),
    zeroFor: (cell: Cell) => references.zeroOf(cell.characteristic),
    temperatures,
  };
  const beside = part === undefined ? "" : `?part=${encodeURIComponent(part)}`;
  const goTo = (name: string) =>
    void navigate(`/builds/${build.code}/bench/${name}${beside}`, { replace: true });
  const bench = useBench({ build, station: station.station, by: session.login, group, means, part, goTo });
  const { active, text } = bench;
  const naming = beginsAPlace(text);
  const { echo, error } = useEcho({
    code: build.code,
    cell: naming ? undefined : active,
    text,
    means,
    seq: build.assessment.seq,
    part,
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

  const toPart = (part: Role) => {
    const of = measured(station, part, read);
    if (!of) return;
    const to = groupOf(of);
    setGroup(to);
    const where = { read, group: to };
    const place = placesOf(station, where).find((p) => roleOf(p.characteristic) === part);
    bench.activate(firstWanted(build, station.station, where, part) ?? (place && nextTouch(build, place)));
  };
  const changeGroup = (to: Group) => {
    setGroup(to);
    bench.activate(firstWanted(build, station.station, { read, group: to }));
  };
  const strikeLast = () => {
    const places = [station.station, station.journal_at];
    const here = build.readings.filter(
      (r) => places.includes(r.station) && (r.part ?? undefined) === part && !r.struck,
    );
    const place = active && placeOf(active);
    const at = here.filter((r) => placeOf(r) === place);
    setStriking((at.at(-1) ?? here.at(-1))?.id);
  };
  const changeRead = (to: Read) => {
    setRead(to);
    if (!active || readAt(active.characteristic, to) === active.read) return;
    bench.activate(
      firstWanted(build, station.station, { read: to, group }, roleOf(active.characteristic)) ??
        nextTouch(build, { ...active, read: to }),
    );
  };
  const showLayer = (to: LineView) => {
    setLineView(to);
    const stations = stationsOn(build, to);
    // The crank's own play stands first on its layer.
    const there = stations.find((f) => kindOf(f.station) === "thrust") ?? stations[0];
    if (there) goTo(there.station);
    else if (layer) goTo(bearingsOf(build)[0]?.station ?? station.station);
  };
  const toggleView = (to: View) => setView((v) => (v === to ? "station" : to));
  const letter = useRef("");
  const onKey = benchKeys({
    bench,
    build,
    station,
    where: { read, group },
    refused: Boolean(echo?.problem),
    canForce: echo?.problem?.can_force ?? false,
    goTo,
    toPart,
    toggleRead: () => changeRead(read === "dial" ? "size" : "dial"),
    toggleView,
    stepLayer: (by) => {
      const layers = LAYERS.filter((l) => facesOf(build, l).length > 0);
      const at = layers.indexOf(layerShowing(lineView)) + by;
      const to = layers[(at + layers.length) % layers.length];
      showLayer((to && facesOf(build, to)[0]?.view) ?? "crank");
    },
    toggleLine: () => {
      if (turned) showLayer(turned.view);
    },
    toReference: () => document.getElementById("reference")?.focus(),
    strikeLast,
    setTarget: () => {
      setTargetOf(station);
      setOpen("target");
    },
    letter,
    recordWork: () => setOpen("work"),
    checkGauge: () => setOpen("check"),
  });
  useKeysAnywhere(onKey, (key) => bench.setText((before) => before + key));

  const next = nextOn(build, lineView, station.station);
  const close = () => setOpen(undefined);
  const inHand = gauges[active ? gaugeUse(active) : "inside"];
  return (
    <BenchKeysContext value={onKey}>
      <Line
        build={build}
        chosen={station.station}
        onChoose={goTo}
        ident={<LineIdent build={build} row={station.row} of={station} />}
        aside={<LineAside build={build} view={lineView} />}
        view={lineView}
        onView={showLayer}
      />
      <BlindBar build={build} onGo={goTo} />
      {part !== undefined && <CandidateBar code={build.code} part={part} />}
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,612fr)_minmax(0,668fr)] grid-rows-[minmax(0,1fr)] max-[1150px]:grid-cols-[minmax(0,560fr)_minmax(0,464fr)]">
        <Entry
          build={build}
          station={station}
          bench={bench}
          group={group}
          onGroup={changeGroup}
          onRead={changeRead}
          means={means}
          onGauge={(use, id) => {
            setGauges((all) => ({ ...all, [use]: id }));
            // The list gives the focus back to its button first: then the hand goes on where it was.
            requestAnimationFrame(() => document.querySelector<HTMLElement>("[data-entry]")?.focus());
          }}
          onCheck={() => setOpen("check")}
          referenceOf={references.of}
          onReference={references.set}
          zeroOf={references.zeroOf}
          onZero={references.setZero}
          onTemperatures={setTemperatures}
          echo={echo}
          echoError={error}
          onStrike={setStriking}
          link={
            <GaugeLink
              gauge={inHand}
              build={build}
              ready={open === undefined && striking === undefined}
              typing={text !== ""}
              onReading={bench.sent}
            />
          }
        />
        <div className="relative min-h-0 border-l-[1.5px] border-ink bg-paper">
          <div className="grad-down absolute inset-y-0 left-0" />
          <div className="h-full relative overflow-auto py-1 pr-6 pl-7">
            <Results
              build={build}
              station={station}
              unit={unit}
              active={active}
              view={view}
              onView={setView}
              onTarget={(of) => {
                setTargetOf(of);
                setOpen("target");
              }}
              onPart={(at, part) => {
                if (at !== station.station && at !== station.journal_at)
                  goTo(bearingFor(build, at)?.station ?? at);
                else toPart(part);
              }}
              onBlind={() => setOpen("blind")}
            />
          </div>
        </div>
      </main>
      <footer className="flex min-h-[52px] flex-none items-center gap-4 border-t border-hair bg-steel-1 px-6">
        <Keys
          keys={[
            { press: ["Enter"], does: "keep, next" },
            ...partKeys(station),
            ...(turned
              ? [{ press: ["F"], does: turned.word.toLowerCase(), run: () => showLayer(turned.view) }]
              : []),
            { press: ["X"], does: "strike", run: strikeLast },
            { press: ["W"], does: "work", run: () => setOpen("work") },
            { press: ["G"], does: "gauge", run: () => setOpen("check") },
            { press: ["U"], does: "proof", run: () => toggleView("proof") },
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
          entry={reading.id}
          title={`Strike a reading at ${reading.station}`}
          onClose={() => setStriking(undefined)}
        >
          <Figure nm={reading.size} unit={unit} className="text-title font-bold" />
          <span className="ml-3 text-small text-ink-2">
            typed {reading.raw} by {reading.by.name}, {momentText(reading.at)}
          </span>
        </StrikeDialog>
      )}
      {open === "target" && targetOf && (
        <TargetDialog build={build} station={targetOf} unit={unit} onClose={close} />
      )}
      {open === "work" && <WorkDialog build={build} station={station} onClose={close} />}
      {open === "check" && (
        <CheckDialog
          build={build}
          gauge={inHand}
          unit={unit}
          zeroedAt={active && references.of(active.characteristic)}
          onClose={close}
        />
      )}
      {open === "blind" && <BlindDialog build={build} station={station} onClose={close} />}
    </BenchKeysContext>
  );
}

/** The keys that go to a part of what is on the bench: none where it has no such part. */
function partKeys(station: FigureAssessment): { press: string[]; does: string }[] {
  const there = Object.entries(PART_KEY).filter(([, role]) => station.measured.some((m) => m.role === role));
  const does = there.map(([, role]) => PART_WORD[role]).join(", ");
  return there.length > 0 ? [{ press: there.map(([key]) => key.toUpperCase()), does }] : [];
}

/** What takes keys of its own, so that the bench leaves them alone. */
const OWN_KEYS = "input, textarea, select, [role=dialog], [role=listbox], [aria-haspopup]";

/** The keys of the bench work wherever the focus is: the hand need not find the mouse first. */
function useKeysAnywhere(onKey: (event: PressedKey) => void, onType: (key: string) => void): void {
  const handler = useRef(onKey);
  const type = useRef(onType);
  // With what is drawn, not after it: a key may come in between.
  useLayoutEffect(() => {
    handler.current = onKey;
    type.current = onType;
  });
  useEffect(() => {
    const anywhere = (event: KeyboardEvent) => {
      const target = event.target as Element;
      if (target.closest(OWN_KEYS) || document.querySelector("[role=dialog]")) return;
      // A button keeps what presses it.
      if (target.closest("button, a") && (event.key === "Enter" || event.key === " ")) return;
      handler.current(event);
      // Whatever is typed belongs into the cell, also while the hand is between two stations and none is drawn.
      if (event.defaultPrevented || event.key.length !== 1 || event.ctrlKey || event.metaKey) return;
      const cell = document.querySelector<HTMLElement>("[data-entry]");
      if (cell) cell.focus();
      else type.current(event.key);
    };
    window.addEventListener("keydown", anywhere);
    return () => window.removeEventListener("keydown", anywhere);
  }, []);
}
