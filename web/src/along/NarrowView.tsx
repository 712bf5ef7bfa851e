import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type FigureAssessment, type Schemas, type Unit, unwrap } from "../api/client";
import { Segments } from "../shared/Choice";
import { Figure } from "../shared/Figure";
import { lineText } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { SmallField } from "../shared/SmallField";

type NarrowViewProps = { build: Build; station: FigureAssessment; unit: Unit };
type Ask = Required<Schemas["AskNarrowing"]>;

/** How to narrow the rods of a pin: what comes off which face, pass by pass. */
export function NarrowView({ build, station, unit }: NarrowViewProps) {
  const rods = station.measured.filter((m) => m.role === "rod_width").map((m) => m.place);
  const [ask, setAsk] = useState<Omit<Ask, "at">>({
    rough: "",
    finish: "",
    dial_in_diameter: false,
    bank_offset: "",
    beams: [],
    most_a_face: "",
    ring_outside: "",
    ring_inside: "",
  });
  const set = (more: Partial<Ask>) => setAsk({ ...ask, ...more });
  const body: Ask = { ...ask, at: station.station };
  const plan = useQuery({
    queryKey: ["narrowing", build.code, build.assessment.seq, body],
    queryFn: () =>
      unwrap(api.POST("/api/v1/builds/{build}/narrowing", { params: { path: { build: build.code } }, body })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const field = (label: string, name: string, value: string, to: (text: string) => void, usual: string) => (
    <SmallField label={label} name={name} value={value} usual={usual} onChange={to} above />
  );
  const beam = (i: number, text: string) => {
    const beams = rods.map((_, j) => (j === i ? text : (ask.beams[j] ?? "")));
    set({ beams });
  };
  const [rough, finish] = unit === "in" ? [".0200", ".0040"] : ["0.500", "0.100"];
  return (
    <div className="mt-2" data-narrowing={station.station}>
      <div className="flex flex-wrap items-end gap-3">
        {field("Pass at most", "rough", ask.rough, (text) => set({ rough: text }), rough)}
        {field("Last pass", "finish", ask.finish, (text) => set({ finish: text }), finish)}
        {field("A face gives", "most_a_face", ask.most_a_face, (text) => set({ most_a_face: text }), "any")}
        {field(
          "Faces outside \u2300",
          "ring_outside",
          ask.ring_outside,
          (text) => set({ ring_outside: text }),
          "for weight",
        )}
        {ask.ring_outside.trim() !== "" &&
          field(
            "Inside \u2300",
            "ring_inside",
            ask.ring_inside,
            (text) => set({ ring_inside: text }),
            "housing",
          )}
        {rods.length === 2 &&
          field(
            "Bank offset",
            "bank_offset",
            ask.bank_offset,
            (text) => set({ bank_offset: text }),
            "even split",
          )}
        {rods.length <= 2 &&
          rods.map((rod, i) => (
            <span key={rod}>
              {field(
                `Beam of ${rod}`,
                `beam-${rod}`,
                ask.beams[i] ?? "",
                (text) => beam(i, text),
                "from front",
              )}
            </span>
          ))}
        <Segments
          label="The slide's dial"
          value={ask.dial_in_diameter ? "diameter" : "travel"}
          onChange={(to) => set({ dial_in_diameter: to === "diameter" })}
          options={[
            { value: "travel", text: "Dial: travel" },
            { value: "diameter", text: "diameter" },
          ]}
        />
      </div>
      <ProblemNote problem={plan.error} />
      {plan.data && !plan.error && <Plan plan={plan.data} unit={unit} />}
    </div>
  );
}

function Plan({ plan, unit }: { plan: Schemas["RodNarrowing"]; unit: Unit }) {
  const step = unit === "in" ? "thou" : "\u00b5m";
  const off = (nm: number) => `${lineText(nm, unit)} ${step}`;
  if (plan.removal === 0) {
    return <p className="mt-3 leading-snug">There is as much room as is aimed at: nothing comes off.</p>;
  }
  const weighed = plan.rods.some((rod) => rod.mass_off != null);
  return (
    <>
      <p className="mt-3 leading-snug">
        <b>{off(plan.removal)} come off</b> the rods of {plan.at} together: from{" "}
        <Figure nm={plan.now} unit={unit} as="clearance" /> to{" "}
        <Figure nm={plan.clearance} unit={unit} as="clearance" className="font-bold" />
        {plan.short > 0 && `, ${off(plan.short)} short of the aim`}.
      </p>
      <table className="mt-2 w-full text-small">
        <thead className="text-left text-note text-ink-2">
          <tr>
            <th className="font-normal">Face</th>
            <th className="font-normal">Off</th>
            <th className="font-normal">Cut, then the dial shows</th>
            <th className="text-right font-normal">Width then</th>
            {weighed && <th className="text-right font-normal">Weight off</th>}
          </tr>
        </thead>
        <tbody>
          {plan.rods.flatMap((rod) =>
            (["front", "rear"] as const).map((side) => (
              <tr
                key={`${rod.rod} ${side}`}
                className="border-t border-hair align-top"
                data-face={`${rod.rod} ${side}`}
              >
                <th scope="row" className="py-1.5 text-left font-semibold">
                  {rod.rod} {side}
                </th>
                <td className="num py-1.5">{lineText(rod[side].off, unit)}</td>
                <td className="num py-1.5">
                  {rod[side].passes.length === 0
                    ? "none"
                    : rod[side].passes
                        .map((p) => `${lineText(p.cut, unit)} \u2192 ${lineText(p.dial, unit)}`)
                        .join(", ")}
                </td>
                <td className="py-1.5 text-right">
                  {side === "rear" && <Figure nm={rod.width} unit={unit} className="font-bold" />}
                </td>
                {weighed && (
                  <td className="num py-1.5 text-right">
                    {side === "rear" && rod.mass_off != null && `${(rod.mass_off / 1000).toFixed(1)} g`}
                  </td>
                )}
              </tr>
            )),
          )}
        </tbody>
      </table>
      {plan.hot_change != null && (
        <p className="mt-3 leading-snug" data-hot-change>
          These rods grow otherwise than the crank: 80 kelvin warmer, the clearance is{" "}
          <b>
            {off(Math.abs(plan.hot_change))} {plan.hot_change < 0 ? "smaller" : "larger"}
          </b>
          .
        </p>
      )}
      <p className="mt-3 text-small leading-snug">
        Figures in {step}. A spring pass repeats the last cut. <b>Turn the fixture through by hand</b> before
        cutting: rod and cap screws clear tool and bed; no gloves. Cut the spares in the same set-up, break
        the edges, and measure again with the caps torqued. Rods that lost weight are weighed again before the
        crank is balanced.
      </p>
    </>
  );
}
