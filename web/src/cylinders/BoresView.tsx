import { useState } from "react";
import type { Build, Schemas, Unit } from "../api/client";
import { NotedTable } from "../noted/NotedTable";
import { Digits, Figure } from "../shared/Figure";
import { lineText } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { SmallField } from "../shared/SmallField";
import { CylinderOrder } from "./CylinderOrder";
import { GaugePointView } from "./GaugePointView";
import { useBores } from "./useBores";

type BoresViewProps = { build: Build; unit: Unit; chosen: string };
type Plan = Schemas["BoresPlan"];

const OF_CYLINDERS: Schemas["Note"][] = [
  "piston_weight",
  "rod_weight",
  "crown_volume",
  "pocket_depth",
  "pocket_radius",
  "pin_offset",
  "roughness",
];

/** Every cylinder with its piston: the bore each wants, whether one size serves all, and which piston belongs where. */
export function BoresView({ build, unit, chosen }: BoresViewProps) {
  const [tolerance, setTolerance] = useState("");
  const [married, setMarried] = useState("");
  const plan = useBores(build, tolerance, married);
  const step = unit === "in" ? "thou" : "\u00b5m";
  return (
    <div className="mt-2" data-bores="">
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        <SmallField
          label="The honer holds, to either side"
          name="tolerance"
          value={tolerance}
          usual={unit === "in" ? ".0001" : "0.003"}
          onChange={setTolerance}
        />
        <SmallField
          label="Stay with their rods"
          name="married"
          value={married}
          usual="none"
          onChange={setMarried}
        />
      </div>
      <ProblemNote problem={plan.error} />
      {plan.data && !plan.error && (
        <>
          <BoresTable plan={plan.data} unit={unit} chosen={chosen} />
          <p className="mt-2 text-note text-ink-2">To take and clearances in {step}.</p>
          <OneSize plan={plan.data} unit={unit} />
          <Assignment plan={plan.data} unit={unit} />
          {plan.data.cylinders.some((c) => c.hone) && (
            <CylinderOrder build={build} tolerance={tolerance} label="Order these bores" />
          )}
          <p className="mt-2 text-small leading-snug">
            Measured cool, {build.layout.rollers ? "held down as it runs" : "plate on"}, washed. A piston
            under its own sheet is worn or collapsed: another bore does not mend it.
          </p>
          <GaugePointView build={build} unit={unit} />
          <NotedTable
            build={build}
            title="Weighed, poured, read off"
            of="Bore"
            stations={plan.data.cylinders.map((c) => c.at)}
            notes={OF_CYLINDERS}
            chosen={chosen}
          >
            Piston with pin and locks, rod with its bolts; a dish counts plus, a dome minus. Among orders that
            fit equally well, the heavier piston goes to the lighter rod.
          </NotedTable>
        </>
      )}
    </div>
  );
}

function BoresTable({ plan, unit, chosen }: { plan: Plan; unit: Unit; chosen: string }) {
  const size = (nm: number | null | undefined) =>
    nm == null ? "\u2013" : <Figure nm={nm} unit={unit} className="font-bold" />;
  const [low, high] = [plan.target.low, plan.target.high];
  return (
    <table className="mt-2 w-full text-small [&_td]:pr-2 [&_th]:pr-2 max-[1150px]:text-note max-[1150px]:[&_td]:pr-1">
      <thead className="text-left text-note text-ink-2">
        <tr>
          <th className="font-normal">Bore</th>
          <th className="font-normal">Piston</th>
          <th className="font-normal">Smallest</th>
          <th className="font-normal">Largest</th>
          <th className="font-normal">Hone to</th>
          <th className="font-normal">Take, tight / wide</th>
          <th className="text-right font-normal">It comes to</th>
        </tr>
      </thead>
      <tbody>
        {plan.cylinders.map((c) => (
          <tr
            key={c.at}
            data-bore={c.at}
            className={`border-t border-hair ${c.at === chosen ? "bg-dye-wash" : ""}`}
          >
            <th scope="row" className="py-1.5 text-left font-bold">
              {c.at}
            </th>
            <td>{size(c.piston)}</td>
            <td>{size(c.bore?.[0])}</td>
            <td>{size(c.bore?.[1])}</td>
            <td className="text-dye">{size(c.finished)}</td>
            <td className="num">
              {c.take ? (
                <>
                  <Digits text={lineText(c.take[0] ?? 0, unit)} /> /{" "}
                  <Digits text={lineText(c.take[1] ?? 0, unit)} />
                </>
              ) : (
                "\u2013"
              )}
            </td>
            <td className="text-right font-semibold">
              {c.too_large ? (
                <span className="text-loose">too large: a larger piston</span>
              ) : c.plate_off ? (
                "plate off: not to cut by"
              ) : c.condemned ? (
                "its piston is condemned"
              ) : !c.bore || c.piston == null ? (
                "not measured"
              ) : c.hone ? (
                <span className="text-dye">hone</span>
              ) : (
                ""
              )}
            </td>
          </tr>
        ))}
      </tbody>
      <caption className="caption-bottom pt-1 text-left text-note text-ink-2">
        Window <Figure nm={low} unit={unit} as="clearance" />–
        <Figure nm={high} unit={unit} as="clearance" />, aim{" "}
        <Figure nm={plan.target.aim} unit={unit} as="clearance" />.
      </caption>
    </table>
  );
}

function OneSize({ plan, unit }: { plan: Plan; unit: Unit }) {
  const one = plan.one_size;
  if (!one) return null;
  const figure = (nm: number) => <Figure nm={nm} unit={unit} as="clearance" />;
  return (
    <p className="mt-2 leading-snug" data-one-size={one.bore ?? "none"}>
      {one.bore == null ? (
        <>
          <b>One size does not serve all:</b> the pistons differ by {figure(one.spread)}; with what the honer
          holds and what the gauges leave open that needs {figure(one.needs)}, the window has{" "}
          {figure(one.has)}. Each bore for its own piston, marked with it.
        </>
      ) : (
        <>
          <b>
            One size serves all: <Figure nm={one.bore} unit={unit} />.
          </b>{" "}
          It needs {figure(one.needs)} of the window's {figure(one.has)}.
        </>
      )}
    </p>
  );
}

function Assignment({ plan, unit }: { plan: Plan; unit: Unit }) {
  const found = plan.assignment;
  if (!found?.moves) return null;
  const [now, then] = found.outside;
  const moved = found.pistons.filter((p) => p.from.slice(1) !== p.to.slice(1));
  return (
    <p className="mt-2 leading-snug" data-pistons-move="">
      <b>Pistons to bores, proven best:</b>{" "}
      {moved.map((p) => `${p.from} into ${p.to} (${lineText(p.clearance, unit)})`).join(", ")}; outside the
      window {then} instead of {now}
      {found.weights && (
        <>
          , pistons and rods within {grams(found.weights[1])} g of each other instead of{" "}
          {grams(found.weights[0])}
        </>
      )}
      . Move them under Parts.
    </p>
  );
}

/** Milligrams in grams. */
function grams(mg: number | undefined): string {
  return ((mg ?? 0) / 1_000).toFixed(1);
}
