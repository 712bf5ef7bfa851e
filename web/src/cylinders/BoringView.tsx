import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { Figure } from "../shared/Figure";
import { lineText } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { SmallField } from "../shared/SmallField";
import { CylinderOrder } from "./CylinderOrder";
import { Hatch } from "./Hatch";
import { OversizeScale } from "./OversizeScale";

type Plan = Schemas["BoringPlan"];
type BoringViewProps = { build: Build; unit: Unit; chosen: string; width: number };

const DEPTH = { front: "top", middle: "middle", rear: "bottom" };

const NEAR: Record<string, Schemas["Position"]> = Object.fromEntries(
  (["front", "middle", "rear"] as const).flatMap((axial) =>
    [0, 90].map((angle) => [`${DEPTH[axial]}, ${angle === 0 ? "across" : "along"}`, { axial, angle }]),
  ),
);

const TOOL: Record<Schemas["BoringTool"], string> = {
  bar: "Bar",
  rough_stone: "Stone 150 to 220",
  finish_stone: "Stone 280 to 320",
  plateau: "Plateau 400 to 600, or brush",
};

const USUAL = {
  in: {
    location: ".0005",
    hone_stock: ".0050",
    least_wall: ".1200",
    oversizes: "0.010 0.020 0.030 0.040 0.060",
  },
  mm: { location: "0.012", hone_stock: "0.120", least_wall: "3.000", oversizes: "0.25 0.50 0.75 1.00" },
};

/** The next oversize, proven smallest: what every cylinder needs to clean up, what the bar and each stone leave, the wall. */
export function BoringView({ build, unit, chosen, width }: BoringViewProps) {
  const [ask, setAsk] = useState({
    unworn: "",
    oversizes: "",
    location: "",
    hone_stock: "",
    least_wall: "",
    plate: "",
  });
  const [damage, setDamage] = useState<Record<string, { text: string; near: string }>>({});
  const [walls, setWalls] = useState<Record<string, string>>({});
  const list = (texts: Record<string, string>) => Object.entries(texts).map(([at, text]) => ({ at, text }));
  const damaged = Object.entries(damage).map(([at, d]) => ({ at, text: d.text, near: NEAR[d.near] ?? null }));
  const body = { ...ask, damage: damaged, walls: list(walls) };
  const plan = useQuery({
    queryKey: ["boring", build.code, build.assessment.seq, body],
    queryFn: () =>
      unwrap(api.POST("/api/v1/builds/{build}/boring", { params: { path: { build: build.code } }, body })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const usual = USUAL[unit];
  const field = (name: keyof typeof ask, label: string, holds: string) => (
    <SmallField
      above
      label={label}
      name={name}
      value={ask[name]}
      usual={holds}
      onChange={(text) => setAsk((a) => ({ ...a, [name]: text }))}
    />
  );
  return (
    <div className="mt-2" data-boring="">
      <div className="flex flex-wrap gap-x-3 gap-y-1.5">
        {field("unworn", "Unworn, above the rings", "nominal")}
        {field("location", "Bar off centre", usual.location)}
        {field("hone_stock", "Stones take", usual.hone_stock)}
        {field("plate", "A plate adds", "0")}
        {field("least_wall", "Least wall", usual.least_wall)}
        {field("oversizes", "Oversizes", "as usual")}
      </div>
      <ProblemNote problem={plan.error} />
      {plan.data && !plan.error && (
        <>
          <Chosen plan={plan.data} unit={unit} />
          {!plan.data.coated && <OversizeScale plan={plan.data} unit={unit} chosen={chosen} width={width} />}
          <table className="mt-2 w-full text-small">
            <thead className="text-left text-note text-ink-2">
              <tr>
                <th className="pr-2 font-normal">Bore</th>
                <th className="pr-2 font-normal">Cleans at</th>
                <th className="pr-2 font-normal">Decided at</th>
                <th className="pr-2 font-normal">Pit or score, deep</th>
                <th className="font-normal">Wall, thinnest</th>
              </tr>
            </thead>
            <tbody>
              {plan.data.cylinders.map((c) => (
                <tr
                  key={c.at}
                  data-worn={c.at}
                  className={`border-t border-hair ${c.at === chosen ? "bg-dye-wash" : ""}`}
                >
                  <th scope="row" className="py-1 text-left font-bold">
                    {c.at}
                  </th>
                  <td className={c.at === plan.data.decided_by ? "font-bold" : ""}>
                    {c.needs == null ? "not measured" : <Figure nm={c.needs} unit={unit} />}
                    {c.expanded != null && c.expanded > 0 && (
                      <span className="text-note text-ink-2"> ±{lineText(c.expanded, unit)}</span>
                    )}
                  </td>
                  <td className="text-ink-2">
                    {c.decided_at
                      ? `${DEPTH[c.decided_at.axial]}, ${c.decided_at.angle === 0 ? "across" : "along"}`
                      : ""}
                    {c.plate_off && ", plate off"}
                  </td>
                  <td>
                    {c.seen != null && (
                      <span className="mr-1.5" data-seen={c.seen}>
                        seen: <Figure nm={c.seen} unit={unit} />
                      </span>
                    )}
                    <Cell
                      label={`Depth of damage in ${c.at}`}
                      value={damage[c.at]?.text ?? ""}
                      onChange={(text) =>
                        setDamage((d) => ({ ...d, [c.at]: { near: d[c.at]?.near ?? "", text } }))
                      }
                    />
                    {damage[c.at]?.text && (
                      <select
                        aria-label={`Where the damage in ${c.at} is`}
                        value={damage[c.at]?.near}
                        className="ml-1 h-7 border border-hair-strong bg-paper text-note"
                        onChange={(e) =>
                          setDamage((d) => ({
                            ...d,
                            [c.at]: { text: d[c.at]?.text ?? "", near: e.target.value },
                          }))
                        }
                      >
                        <option value="">at its widest</option>
                        {Object.keys(NEAR).map((near) => (
                          <option key={near}>{near}</option>
                        ))}
                      </select>
                    )}
                  </td>
                  <td>
                    <Cell
                      label={`Thinnest wall of ${c.at}`}
                      value={walls[c.at] ?? ""}
                      onChange={(text) => setWalls((w) => ({ ...w, [c.at]: text }))}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Options plan={plan.data} unit={unit} />
          {plan.data.chosen != null && (
            <CylinderOrder build={build} tolerance="" oversize={body} label="Order this oversize" />
          )}
          <Hatch build={build} unit={unit} />
          <p className="mt-2 text-small leading-snug">
            {build.layout.rollers
              ? "Held down by its own studs as it runs."
              : "Main caps torqued, torque plate on with the gasket and fasteners of the build."}{" "}
            A flexible hone gives texture only. Never pull a hone out turning; afterwards wash, plugs out,
            until a white cloth stays white.
          </p>
        </>
      )}
    </div>
  );
}

function Cell({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (text: string) => void;
}) {
  return (
    <input
      aria-label={label}
      value={value}
      placeholder={"\u2013"}
      autoComplete="off"
      className="num h-7 w-[84px] border border-hair-strong bg-paper px-2"
      onChange={(e) => onChange(e.target.value)}
    />
  );
}

/** A probability as it is spoken: never surer than it is. */
function chance(probability: number): string {
  const percent = Math.floor(probability * 1_000) / 10;
  return percent >= 99.9 ? "over 99.9 %" : percent < 0.1 ? "under 0.1 %" : `${percent} %`;
}

function Chosen({ plan, unit }: { plan: Plan; unit: Unit }) {
  const size = (nm: number) => <Figure nm={nm} unit={unit} />;
  if (plan.open.length > 0) {
    return (
      <p className="mt-3 leading-snug" data-oversize="open">
        <b>Not before every cylinder is measured:</b> {plan.open.join(", ")}{" "}
        {plan.open.length === 1 ? "is" : "are"} missing, and the worst one decides for all.
      </p>
    );
  }
  if (plan.coated) {
    return (
      <p className="mt-3 leading-snug" data-oversize="coated">
        <b>These walls are a coat on light metal: they are never bored.</b> Coated anew, or sleeved.
      </p>
    );
  }
  const found = plan.options.find((o) => o.oversize === plan.chosen);
  if (!found) {
    return (
      <p className="mt-3 leading-snug" data-oversize="none">
        <b>No oversize of these serves.</b> {plan.decided_by} needs {plan.needs != null && size(plan.needs)}:
        sleeve what decides, larger pistons, or another block.
      </p>
    );
  }
  return (
    <p className="mt-3 leading-snug" data-oversize={found.oversize}>
      <b>
        {size(found.oversize)} over {size(plan.standard)}, finished at {size(found.finished)}: the smallest
        that cleans all, {chance(found.probability)} sure
        {plan.unworn_assumed ? ", as far as the bore where no ring ran is its nominal" : ""}.
      </b>{" "}
      {plan.unworn_assumed && "Measure it above the rings before pistons are ordered. "}
      {plan.present > 0 && <>It is {size(plan.present)} over already. </>}
      {plan.decided_by} decides; it cleans at {plan.needs != null && size(plan.needs)}.{" "}
      {plan.stages.map((s, i) => (
        <span key={s.tool}>
          {i > 0 && ", then "}
          {i === 0 ? TOOL[s.tool] : TOOL[s.tool].toLowerCase()} to {size(s.to)}
        </span>
      ))}
      , each measured cool.
    </p>
  );
}

function Options({ plan, unit }: { plan: Plan; unit: Unit }) {
  return (
    <ul className="mt-2 text-small">
      {plan.options.map((o) => (
        <li
          key={o.oversize}
          data-option={o.oversize}
          className={`flex gap-3 border-t border-hair py-1 ${o.oversize === plan.chosen ? "bg-dye-wash font-semibold" : ""}`}
        >
          <span className="w-24">
            <Figure nm={o.oversize} unit={unit} /> over
          </span>
          <span className="w-40">
            bar to <Figure nm={o.bar} unit={unit} />
          </span>
          <span className="flex-1">
            {o.cleans
              ? plan.open.length > 0
                ? "cleans what is measured"
                : `cleans all, ${chance(o.probability)} sure`
              : `may leave ${o.dirty.join(", ") || "one of them"} dirty, ${chance(o.probability)} sure to clean`}
            {o.thin.map((w) => (
              <span key={w.at} className="text-tight">
                , wall of {w.at} down to <Figure nm={w.left} unit={unit} />
              </span>
            ))}
            {o.thin.length === 0 && o.wall != null && (
              <>
                , wall <Figure nm={o.wall} unit={unit} /> left
              </>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}
