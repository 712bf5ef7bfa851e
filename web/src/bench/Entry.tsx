import type { ReactNode } from "react";
import type { Build, Method, StationAssessment, Unit } from "../api/client";
import { Choice, Segments } from "../shared/Choice";
import { ProblemNote } from "../shared/ProblemNote";
import { Caution } from "./Caution";
import { CellInput } from "./CellInput";
import { featureOf, placeOf } from "./cells";
import { EchoBar } from "./EchoBar";
import { EntryTable } from "./EntryTable";
import type { BenchState, Gauges } from "./useBench";
import type { Echo } from "./useEcho";

type EntryProps = {
  build: Build;
  station: StationAssessment;
  unit: Unit;
  bench: BenchState;
  method: Method;
  onMethod: (method: Method) => void;
  gauges: Gauges;
  onGauges: (gauges: Gauges) => void;
  reference: string;
  onReference: (text: string) => void;
  echo: Echo | undefined;
  echoError: Error | null;
  onStrike: (reading: string) => void;
};

function Head({
  title,
  taken,
  of,
  children,
}: {
  title: string;
  taken: number;
  of: number;
  children: ReactNode;
}) {
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
  const { build, station, unit, bench, method, gauges, reference, echo } = props;
  const journal = station.journal;
  const bore = featureOf(station, "main_bearing", method);
  const { active, text } = bench;
  const back = active && bench.sentBack.find((e) => placeOf(e.cell) === placeOf(active));
  const kinds = (use: "outside" | "inside") =>
    build.gauges.filter((g) => g.measures === use).map((g) => ({ value: g.id, text: g.name }));
  const table = { build, station, method, unit, bench, echo, onStrike: props.onStrike };
  const naming = /^m\d*$/i.test(text.trim()) ? text.trim().toUpperCase() : undefined;
  return (
    <section
      aria-label={`Readings of ${station.station}`}
      className="flex flex-col px-6 pt-2 max-[1150px]:px-4"
    >
      <div className="grad" />
      <Head title="Journal" taken={journal.taken} of={journal.planned}>
        <Choice
          label="Gauge on the journal"
          value={gauges.main_journal}
          options={kinds("outside")}
          onChange={(id) => props.onGauges({ ...gauges, main_journal: id })}
        />
      </Head>
      <EntryTable {...table} feature="main_journal" />
      <div className="grad mt-2.5" />
      <Head title="Bore" taken={bore.taken} of={bore.planned}>
        <Segments
          label="Method"
          value={method}
          onChange={props.onMethod}
          options={[
            { value: "direct", text: "Direct" },
            { value: "subtract", text: "Subtract" },
          ]}
        />
        <Choice
          label="Gauge in the bore"
          value={gauges.main_bearing}
          options={kinds("inside")}
          onChange={(id) => props.onGauges({ ...gauges, main_bearing: id })}
        />
        {method === "direct" && (
          <label className="flex items-center gap-1.5 text-small whitespace-nowrap text-ink-2">
            zeroed at
            <input
              id="reference"
              value={reference}
              autoComplete="off"
              spellCheck={false}
              onChange={(e) => props.onReference(e.target.value)}
              onKeyDown={(e) => {
                if (e.key !== "Enter") return;
                e.preventDefault();
                document.querySelector<HTMLElement>("[data-entry]")?.focus();
              }}
              className="num h-7 w-[100px] border border-hair-strong bg-paper px-1.5 text-ink"
            />
          </label>
        )}
      </Head>
      <EntryTable {...table} feature="main_bearing" headless />
      <Caution />
      <div className="sticky bottom-0 mt-auto bg-steel-1 pt-2 pb-2">
        <ProblemNote problem={props.echoError} />
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
  if (bench.active.feature === "main_bearing" && bench.active.method === "direct") {
    return "Type the dial: 21 is 2.1 thou over the zero, -3 is under it.";
  }
  return "Type the last digits, the whole figure, or a figure with its unit.";
}
