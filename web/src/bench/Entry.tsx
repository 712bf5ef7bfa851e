import type { ReactNode } from "react";
import type { Build, Gauge, GaugeUse, Part, StationAssessment } from "../api/client";
import { Choice, Segments } from "../shared/Choice";
import { Digits } from "../shared/Figure";
import { ProblemNote } from "../shared/ProblemNote";
import { Caution } from "./Caution";
import { CellInput } from "./CellInput";
import { assessedOf, type Group, onDial, partOf, placeOf } from "./cells";
import { EchoBar } from "./EchoBar";
import { EntryTable } from "./EntryTable";
import type { BenchState, Means } from "./useBench";
import type { Echo } from "./useEcho";

type EntryProps = {
  build: Build;
  station: StationAssessment;
  bench: BenchState;
  group: Group;
  onGroup: (group: Group) => void;
  onMethod: (method: "direct" | "subtract") => void;
  means: Means;
  onGauge: (use: GaugeUse, id: string) => void;
  /** Checks the gauge in hand in or out. */
  onCheck: () => void;
  reference: string;
  onReference: (text: string) => void;
  onTemperatures: (temperatures: { part: string; gauge: string }) => void;
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
  const { method, unit } = means;
  const back = active && bench.sentBack.find((e) => placeOf(e.cell) === placeOf(active));
  const table = { build, station, method, unit, bench, echo, onStrike: props.onStrike };
  const naming = /^[mpr]\d*$/i.test(text.trim()) ? text.trim().toUpperCase() : undefined;
  const of = (part: Part) => assessedOf(station, part, method);
  const count = (part: Part) => ({ taken: of(part).taken, of: of(part).planned });
  const gauge = (use: GaugeUse, name: string) => <GaugeChoice {...props} use={use} name={name} />;
  const pin = station.journal_at !== station.station;
  return (
    <section
      aria-label={`Readings of ${station.station}`}
      className="flex flex-col px-6 pt-2 max-[1150px]:px-4"
    >
      <div className="flex items-center gap-3 pb-1.5">
        <Segments
          label="What is measured"
          value={group}
          onChange={props.onGroup}
          options={[
            { value: "clearance", text: "Journal, bore" },
            { value: "parts", text: "Housing, shells" },
          ]}
        />
        <TemperatureFields value={means.temperatures} onChange={props.onTemperatures} />
        <span className="ml-auto">{props.link}</span>
      </div>
      <div className="grad" />
      {group === "clearance" ? (
        <>
          <Head title={pin ? `Pin ${station.journal_at}` : "Journal"} {...count("journal")}>
            {gauge("outside", "Gauge on the journal")}
          </Head>
          <EntryTable {...table} part="journal" />
          <div className="grad mt-2" />
          <Head title="Bore" {...count("bore")}>
            <MethodChoice {...props} />
            {gauge("inside", "Gauge in the bore")}
            <Reference {...props} shown={method === "direct"} />
          </Head>
          <EntryTable {...table} part="bore" headless />
        </>
      ) : (
        <>
          <Head title="Housing, no shells" {...count("housing")}>
            <MethodChoice {...props} />
            {gauge("inside", "Gauge in the housing")}
            <Reference {...props} shown={method === "direct"} />
          </Head>
          <EntryTable {...table} part="housing" />
          <div className="grad mt-2" />
          <Head
            title="Shell walls"
            taken={of("upper_wall").taken + of("lower_wall").taken}
            of={of("upper_wall").planned + of("lower_wall").planned}
          >
            {gauge("wall", "Gauge on the walls")}
          </Head>
          <EntryTable {...table} part="upper_wall" headless />
          <EntryTable {...table} part="lower_wall" headless />
          <div className="grad mt-2" />
          <Head title="Crushed strip" {...count("strip")}>
            {gauge("gap", "Strip")}
          </Head>
          <EntryTable {...table} part="strip" headless />
        </>
      )}
      <Caution group={group} />
      <div className="sticky bottom-0 mt-auto bg-steel-1 pt-1.5 pb-2">
        <ProblemNote problem={props.echoError} />
        <Outbox bench={bench} />
        <EchoBar
          text={text}
          echo={echo}
          back={back}
          station={naming}
          idle={idleText(bench, station.station)}
          pad={active ? undefined : <Pad bench={bench} />}
        />
      </div>
    </section>
  );
}

function MethodChoice({ means, onMethod, group }: EntryProps) {
  return (
    <Segments
      label={group === "clearance" ? "Method" : "Housing read"}
      value={means.method}
      onChange={onMethod}
      options={[
        { value: "direct", text: group === "clearance" ? "Direct" : "Dial" },
        { value: "subtract", text: group === "clearance" ? "Subtract" : "Size" },
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
  name,
}: EntryProps & { use: GaugeUse; name: string }) {
  const fits = build.gauges.filter((g) => g.gauge.measures === use);
  const inHand = fits.find((g) => g.gauge.id === means.gauges[use]);
  const callOut = inHand && gaugeCallOut(inHand, station);
  return (
    <>
      <Choice
        label={name}
        value={means.gauges[use]}
        options={fits.map((g) => ({ value: g.gauge.id, text: g.gauge.name }))}
        onChange={(id) => onGauge(use, id)}
        className="h-7 max-w-[172px] text-small"
      />
      {use !== "gap" && (
        <button
          type="button"
          onClick={onCheck}
          data-gauge-standing={callOut?.grave ? "stop" : inHand?.session ? "in" : "unproven"}
          className={`text-note leading-tight font-semibold ${
            callOut?.grave ? "bg-ink px-1.5 text-white" : "text-dye underline underline-offset-2"
          }`}
        >
          {callOut?.text ?? "checked in"}
        </button>
      )}
    </>
  );
}

/** What a gauge must be called out for before the first reading; the gravest only. */
function gaugeCallOut(g: Gauge, station: StationAssessment): { text: string; grave: boolean } | undefined {
  const fit = station.station.startsWith("M") ? g.mains : g.rods;
  const ratio = g.ratio_tenths == null ? "" : `${Math.round(g.ratio_tenths / 10)} to 1`;
  if (g.past_due) return { text: `past due since ${g.gauge.due}`, grave: true };
  if (fit === "too_coarse") return { text: `too coarse: ${ratio}, must not decide`, grave: true };
  if (!g.session) return { text: "check in", grave: false };
  if (fit === "coarse") return { text: `${ratio}: coarse`, grave: false };
  return undefined;
}

function Reference({ reference, onReference, shown }: EntryProps & { shown: boolean }) {
  if (!shown) return null;
  return (
    <label className="flex items-center gap-1.5 text-small whitespace-nowrap text-ink-2">
      <span className="max-[1150px]:sr-only">zero</span>
      <input
        id="reference"
        value={reference}
        autoComplete="off"
        spellCheck={false}
        onChange={(e) => onReference(e.target.value)}
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

/** Temperatures of part and gauge, noted with every touch that follows. */
function TemperatureFields({
  value,
  onChange,
}: {
  value: { part: string; gauge: string };
  onChange: (value: { part: string; gauge: string }) => void;
}) {
  const field = (name: "part" | "gauge") => (
    <label className="flex items-center gap-1 text-note text-ink-2">
      {name}
      <input
        value={value[name]}
        inputMode="decimal"
        autoComplete="off"
        title={`Temperature of the ${name}, noted with every touch`}
        aria-label={`Temperature of the ${name}, degrees Celsius`}
        onChange={(e) => onChange({ ...value, [name]: e.target.value })}
        className="num h-7 w-11 border border-hair-strong bg-paper px-1 text-center text-ink"
      />
    </label>
  );
  return (
    <span className="flex items-center gap-2 text-note text-ink-2">
      {field("part")}
      {field("gauge")}
      °C
    </span>
  );
}

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

function idleText(bench: BenchState, station: string): string {
  if (!bench.active) return `${station} wants no more touches. J or B adds one, arrows or M4 go elsewhere.`;
  if (onDial(partOf(bench.active.feature), bench.active.method)) {
    return "Type the dial: 21 is 2.1 thou over the zero, -3 is under it.";
  }
  if (partOf(bench.active.feature) === "strip")
    return "Type the printed width that fits: .0025, or 2.5 thou.";
  return "Type the last digits, the whole figure, or a figure with its unit.";
}
