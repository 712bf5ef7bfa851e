import { useQuery } from "@tanstack/react-query";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { Digits, Figure } from "../shared/Figure";
import { lineText } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { TurnTraces } from "./TurnTraces";

type StraightViewProps = { build: Build; unit: Unit; chosen: string; width: number };
type MainThrow = Schemas["MainThrow"];

/** How the crank runs: bend and ovality of each turned main, of nose and flange apart, and the bow along it. */
export function StraightView({ build, unit, chosen, width }: StraightViewProps) {
  const runs = useQuery({
    queryKey: ["straightness", build.code, build.assessment.seq],
    queryFn: () =>
      unwrap(api.GET("/api/v1/builds/{build}/straightness", { params: { path: { build: build.code } } })),
    retry: false,
  });
  if (!runs.data) return <ProblemNote problem={runs.error} />;
  const { mains, open, limit, packing } = runs.data;
  if (mains.length === 0) {
    return (
      <p className="mt-3 leading-snug" data-straightness="none">
        No main was turned yet. Set the crank on its end mains, the indicator square and clear of the oil
        hole, stop it at each clock, and type eight figures under <b>Runout, line</b>.
      </p>
    );
  }
  const steps = (nm: number | null | undefined) =>
    nm == null ? "\u2013" : <Digits text={lineText(nm, unit)} />;
  return (
    <div className="mt-2" data-straightness="">
      <TurnTraces
        build={build}
        mains={mains}
        limit={limit ?? undefined}
        unit={unit}
        chosen={chosen}
        width={width}
      />
      <p className="mb-2 text-note text-ink-2">
        Traces to one scale, seen from the front; dashes are the bend alone, the bar its high side
        {limit == null ? "" : ", the band what it may come to"}. Below, how far each main lies off the line.
      </p>
      <table className="w-full text-small">
        <thead className="text-left text-note text-ink-2">
          <tr>
            <th className="font-normal">At</th>
            <th className="font-normal">Travel</th>
            <th className="font-normal">Bend</th>
            <th className="font-normal">High at</th>
            <th className="font-normal">Oval</th>
            <th className="font-normal">Mic found</th>
            <th className="font-normal">Off the line</th>
            <th className="font-normal">Off its neighbours</th>
          </tr>
        </thead>
        <tbody>
          {mains.map((m) => (
            <tr
              key={m.at}
              data-main-throw={m.at}
              className={`border-t border-hair ${m.at === chosen ? "bg-dye-wash" : ""}`}
            >
              <th scope="row" className="py-1.5 text-left font-bold">
                {m.at}
              </th>
              <td className="num">{steps(m.travel)}</td>
              <td className={`num font-bold ${m.bent ? "text-tight" : ""}`}>{steps(m.bend)}</td>
              <td className="num">{m.high_side}°</td>
              <td className="num">{steps(m.oval)}</td>
              <td className="num">{steps(m.out_of_round)}</td>
              <td className="num">{steps(m.bow)}</td>
              <td className="num">{steps(m.step)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1.5 text-note text-ink-2">
        In {unit === "in" ? "thou" : "\u00b5m"}, as an indicator shows them.
        {limit != null && (
          <>
            {" "}
            At most <Figure nm={limit} unit={unit} as="clearance" />.
          </>
        )}
        {open.length > 0 && ` Not turned: ${open.join(", ")}.`}
      </p>
      {packing && (
        <p className="mt-2 leading-snug" data-packing={packing.by}>
          <b>
            Under {packing.under}: <Figure nm={packing.by} unit={unit} as="clearance" />
          </b>{" "}
          of packing, in blocks with a V of {packing.v}°: its seat is the smaller one, and the crank would lie
          askew.
        </p>
      )}
      {mains.map((m) => (
        <Said key={m.at} main={m} unit={unit} />
      ))}
    </div>
  );
}

function Said({ main, unit }: { main: MainThrow; unit: Unit }) {
  const step = unit === "in" ? "thou" : "\u00b5m";
  if (main.bent) {
    return (
      <p className="mt-2 leading-snug">
        <b>{main.at} is bent</b> by {lineText(main.bend, unit)} {step}, high at {main.high_side}°:
        straightened by a specialist and crack tested after it, or ground out by as much; then every main is
        turned again.
      </p>
    );
  }
  return main.oval_only ? (
    <p className="mt-2 leading-snug">
      <b>{main.at} is oval, not bent:</b> of {lineText(main.travel, unit)} {step} travel the bend shows{" "}
      {lineText(main.bend, unit)}. A mic should find what is left; where it does not, the supports are oval or
      dirty.
    </p>
  ) : null;
}
