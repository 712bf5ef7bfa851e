import type { ReactNode } from "react";
import { beginsAPlace, characteristicRow, groupsOf, kindOf, roleOf } from "../api/catalog";
import type {
  Build,
  Characteristic,
  FigureAssessment,
  Gauge,
  GaugeUse,
  Group,
  Measured,
  Read,
  Schemas,
  Unit,
} from "../api/client";
import { Choice, Segments } from "../shared/Choice";
import { Digits } from "../shared/Figure";
import { ProblemNote } from "../shared/ProblemNote";
import {
  GAUGE_FOR,
  GROUP_WORD,
  PARTS_WORD,
  placePhrase,
  STRIP_TYPE_WORD,
  TYPE_WORD,
  tableWords,
  ZERO_SOURCES,
  ZERO_WORD,
} from "../shared/words";
import { Caution } from "./Caution";
import { CellInput } from "./CellInput";
import { placeOf, shownOf } from "./cells";
import { EchoBar } from "./EchoBar";
import { EntryTable } from "./EntryTable";
import { gaugesReaching } from "./gauges";
import type { BenchState, Means } from "./useBench";
import type { Echo } from "./useEcho";

type EntryProps = {
  build: Build;
  station: FigureAssessment;
  bench: BenchState;
  group: Group;
  onGroup: (group: Group) => void;
  onRead: (read: Read) => void;
  means: Means;
  onGauge: (use: GaugeUse, id: string) => void;
  /** Checks the gauge in hand in or out. */
  onCheck: () => void;
  referenceOf: (of: Characteristic) => string;
  onReference: (of: Characteristic, text: string) => void;
  zeroOf: (of: Characteristic) => Schemas["ZeroSource"] | undefined;
  onZero: (of: Characteristic, zero: Schemas["ZeroSource"]) => void;
  onTemperatures: (temperatures: Means["temperatures"]) => void;
  echo: Echo | undefined;
  echoError: Error | null;
  onStrike: (reading: string) => void;
  /** The gauge that talks. */
  link: ReactNode;
};

type HeadProps = { title: string; taken: number; of: number; children: ReactNode };

function Head({ title, taken, of, children }: HeadProps) {
  return (
    <div className="flex min-h-8 flex-wrap items-center gap-x-2.5 gap-y-1 py-0.5">
      <h2 className="text-lead font-bold whitespace-nowrap">{title}</h2>
      {children}
      <span className="ml-auto text-small whitespace-nowrap text-ink-2">
        <b className="num text-ink">{taken}</b> of {of}
      </span>
    </div>
  );
}

/** The entry side: what is typed, on steel. */
export function Entry(props: EntryProps) {
  const { build, station, bench, group, means, echo } = props;
  const { active, text } = bench;
  const { read, unit } = means;
  const back = active && bench.sentBack.find((e) => placeOf(e.cell) === placeOf(active));
  const table = { build, station, read, unit, bench, echo, onStrike: props.onStrike };
  const naming = beginsAPlace(text) ? text.trim().toUpperCase() : undefined;
  const groups = GROUP_WORD[kindOf(station.station)] ?? {
    running: "Figure",
    parts: "Parts",
    beside: "Beside",
  };
  const sections = sectionsOf(shownOf(station, { read, group }));
  return (
    <section
      aria-label={`Readings of ${station.station}`}
      className="relative flex min-h-0 flex-col overflow-auto px-6 max-[1150px]:px-4"
    >
      <div className="sticky top-0 z-10 -mx-1 flex flex-none flex-wrap items-center gap-x-2 gap-y-1.5 bg-steel-1 px-1 pt-2 pb-1.5">
        <Segments
          label="What is measured"
          value={group}
          onChange={props.onGroup}
          options={groupsOf(station).map((value) => ({
            value,
            text: groups[value],
          }))}
        />
        <TemperatureFields value={means.temperatures} onChange={props.onTemperatures} />
        <span className="ml-auto">{props.link}</span>
      </div>
      <div className="grad" />
      {sections.map(({ use, parts }, i) => (
        <div key={use} className={i === 0 ? "" : "mt-2"}>
          {i > 0 && <div className="grad" />}
          <SectionHead {...props} use={use} parts={parts} />
          {parts.map((m) => (
            <EntryTable key={`${m.place} ${m.characteristic}`} {...table} of={m} headless={i > 0} />
          ))}
        </div>
      ))}
      <Caution group={group} place={station.station} />
      <div data-foot="" className="sticky bottom-0 mt-auto bg-steel-1 pt-1.5 pb-2">
        <ProblemNote problem={props.echoError} />
        <Outbox bench={bench} />
        <EchoBar
          text={text}
          echo={echo}
          back={back}
          station={naming}
          place={
            active &&
            placePhrase(roleOf(active.characteristic), active.station, active.position, active.touch)
          }
          idle={idleText(bench, station.station, unit)}
          pad={active ? undefined : <Pad bench={bench} />}
        />
      </div>
    </section>
  );
}

type Section = { use: GaugeUse; parts: Measured[] };

/** Parts side by side that one gauge measures share a heading. */
function sectionsOf(shown: Measured[]): Section[] {
  const sections: Section[] = [];
  for (const m of shown) {
    const use = characteristicRow(m.characteristic).gauge;
    const last = sections.at(-1);
    const heading = PARTS_WORD[m.role];
    if (last?.use === use && PARTS_WORD[last.parts[0]?.role ?? m.role] === heading) last.parts.push(m);
    else sections.push({ use, parts: [m] });
  }
  return sections;
}

/** What is measured, how far it is, and with what. */
function SectionHead(props: EntryProps & Section) {
  const { station, parts, means } = props;
  const sum = (of: (m: Measured) => number) => parts.reduce((n, m) => n + of(m), 0);
  const [first] = parts;
  if (!first) return null;
  const elsewhere = first.place !== station.station && first.role === "journal";
  const pin = first.track == null ? `Pin ${first.place}` : `Pin ${first.place}, track ${first.track}`;
  const title = elsewhere ? pin : tableWords(first.role, props.build.layout).heading;
  const { reads } = characteristicRow(first.characteristic);
  return (
    <Head title={title} taken={sum((m) => m.taken)} of={sum((m) => m.planned)}>
      {reads.length > 1 && <ReadChoice {...props} />}
      <GaugeChoice {...props} name={GAUGE_FOR[first.role]} />
      {reads.includes("dial") && means.read === "dial" && (
        <span className="flex items-center gap-1.5">
          <Reference
            of={first.characteristic}
            referenceOf={props.referenceOf}
            onReference={props.onReference}
          />
          {first.role === "bore" && <ZeroChoice {...props} of={first.characteristic} use={props.use} />}
        </span>
      )}
    </Head>
  );
}

function ReadChoice({ means, onRead, group }: EntryProps) {
  const running = group === "running";
  return (
    <Segments
      label={running ? "Method" : "Housing read"}
      value={means.read}
      onChange={onRead}
      options={[
        { value: "dial", text: running ? "Direct" : "Dial" },
        { value: "size", text: running ? "Subtract" : "Size" },
      ]}
    />
  );
}

/** The gauge for one kind of part, and what is to be said about it before it is put on. */
function GaugeChoice({
  build,
  means,
  onGauge,
  onCheck,
  station,
  use,
  parts,
  name,
}: EntryProps & Section & { name: string }) {
  const fits = gaugesReaching(build, station, use);
  const inHand = fits.find((g) => g.gauge.id === means.gauges[use]);
  const callOuts = inHand ? gaugeCallOuts(inHand, station.row) : [];
  const grave = callOuts.some((c) => c.grave);
  const checked = parts.some((m) => characteristicRow(m.characteristic).checked_gauge);
  return (
    <>
      <Choice
        label={name}
        value={means.gauges[use]}
        options={fits.map((g) => ({ value: g.gauge.id, text: g.gauge.name }))}
        onChange={(id) => onGauge(use, id)}
        className="h-7 max-w-[230px] text-small max-[1150px]:max-w-[172px]"
      />
      {checked && (
        <button
          type="button"
          onClick={onCheck}
          data-gauge-standing={grave ? "stop" : inHand?.session ? "in" : "unproven"}
          className={`text-left text-note leading-tight font-semibold ${
            grave ? "bg-ink px-1.5 text-white" : "text-dye underline underline-offset-2"
          }`}
        >
          {callOuts.map((c) => c.text).join("; ") || "checked in"}
        </button>
      )}
    </>
  );
}

/** What a gauge must be called out for before the first reading, the gravest first. */
export function gaugeCallOuts(g: Gauge, row: FigureAssessment["row"]): { text: string; grave: boolean }[] {
  const fit = row === "mains" ? g.mains : g.rods;
  const ratio = g.ratio_tenths == null ? "" : `${Math.round(g.ratio_tenths / 10)} to 1`;
  return [
    ...(g.past_due ? [{ text: `past due since ${g.gauge.due}`, grave: true }] : []),
    ...(fit === "too_coarse"
      ? [{ text: `${ratio} on the window: too coarse, must not decide`, grave: true }]
      : []),
    ...(fit === "coarse" ? [{ text: `${ratio} on the window`, grave: false }] : []),
    ...(g.session ? [] : [{ text: "not checked in", grave: false }]),
    ...(g.session && g.proof === "unproven" ? [{ text: "not checked", grave: false }] : []),
  ];
}

type ReferenceProps = Pick<EntryProps, "referenceOf" | "onReference"> & { of: Characteristic };

/** What the gauge with the dial is zeroed at. */
function Reference({ of, referenceOf, onReference }: ReferenceProps) {
  return (
    <label className="flex items-center gap-1.5 text-small whitespace-nowrap text-ink-2">
      <span>zeroed at</span>
      <input
        id="reference"
        value={referenceOf(of)}
        autoComplete="off"
        spellCheck={false}
        onChange={(e) => onReference(of, e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== "Enter") return;
          e.preventDefault();
          document.querySelector<HTMLElement>("[data-entry]")?.focus();
        }}
        className="num h-7 w-[90px] border border-hair-strong bg-paper px-1.5 text-ink"
      />
    </label>
  );
}

/** What the bore gauge was zeroed in: as its sitting says, or said here. */
function ZeroChoice({
  build,
  means,
  zeroOf,
  onZero,
  of,
  use,
}: EntryProps & { of: Characteristic; use: GaugeUse }) {
  const inHand = build.gauges.find((g) => g.gauge.id === means.gauges[use]);
  const sitting = build.assessment.sessions.find((s) => s.id === inHand?.session);
  const said = zeroOf(of) ?? sitting?.zero ?? "unsaid";
  return (
    <Choice
      label="Zeroed in"
      value={said}
      options={[
        ...(said === "unsaid" ? [{ value: "unsaid" as const, text: "zeroed in?" }] : []),
        ...ZERO_SOURCES.map((value) => ({ value, text: ZERO_WORD[value] })),
      ]}
      onChange={(zero) => zero !== "unsaid" && onZero(of, zero)}
      className="h-7 max-w-[190px] text-small"
    />
  );
}

type Noted = Means["temperatures"];

/** Temperatures of part and gauge, noted with every touch that follows, in the degrees of the shop. */
function TemperatureFields({ value, onChange }: { value: Noted; onChange: (value: Noted) => void }) {
  const { degrees } = value;
  const other = degrees === "C" ? "F" : "C";
  const field = (name: "part" | "gauge") => (
    <label className="flex items-center gap-1 text-note text-ink-2">
      {name}
      <input
        value={value[name]}
        inputMode="decimal"
        autoComplete="off"
        title={`Temperature of the ${name}, noted with every touch`}
        aria-label={`Temperature of the ${name}, degrees ${DEGREES_WORD[degrees]}`}
        onChange={(e) => onChange({ ...value, [name]: e.target.value })}
        className="num h-7 w-9 border border-hair-strong bg-paper px-1 text-center text-ink"
      />
    </label>
  );
  return (
    <span className="flex items-center gap-2 text-note text-ink-2">
      {field("part")}
      {field("gauge")}
      <button
        type="button"
        data-degrees={degrees}
        title={`Note temperatures in degrees ${DEGREES_WORD[other]}`}
        onClick={() => onChange({ part: "", gauge: "", degrees: other })}
        className="h-7 px-1 underline decoration-dotted underline-offset-4"
      >
        °{degrees}
      </button>
    </span>
  );
}

const DEGREES_WORD = { C: "Celsius", F: "Fahrenheit" };

/** What was typed while the server did not answer. */
function Outbox({ bench }: { bench: BenchState }) {
  const { notYetKept, ofOthers } = bench;
  if (notYetKept === 0 && ofOthers === 0) return null;
  return (
    <p
      role="status"
      data-not-kept={notYetKept}
      className="mb-1 bg-ink px-3 py-1.5 text-small leading-tight text-white"
    >
      {notYetKept > 0 && (
        <>
          <b className="num">
            <Digits text={String(notYetKept)} />
          </b>{" "}
          {notYetKept === 1 ? "touch is" : "touches are"} not yet kept: the server does not answer. They wait
          here, also over a reload, and are sent in order.
        </>
      )}
      {ofOthers > 0 && ` ${ofOthers} of somebody else wait here until they sign in.`}
    </p>
  );
}

/** Where keys go while the station wants nothing: the name of another one, or a command. */
function Pad({ bench }: { bench: BenchState }) {
  return (
    <span className="ml-2 h-8 w-20 border border-hair-strong bg-paper text-[18px]">
      <CellInput name="Station or command" lead="" bench={bench} problem={false} />
    </span>
  );
}

function idleText(bench: BenchState, station: string, unit: Unit): string {
  if (!bench.active) return `${station} is done. Press a place to touch it again.`;
  if (characteristicRow(bench.active.characteristic).gauge === "gap") return STRIP_TYPE_WORD[unit];
  return TYPE_WORD[bench.active.read][unit];
}
