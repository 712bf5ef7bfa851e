import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type FigureAssessment, type Schemas, type Unit, unwrap } from "../api/client";
import { Segments } from "../shared/Choice";
import { Digits, Figure } from "../shared/Figure";
import { lineText } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { SmallField } from "../shared/SmallField";
import { FilletSection } from "./FilletSection";
import { LathePaper } from "./LathePaper";

type FilletViewProps = { build: Build; station: FigureAssessment; unit: Unit; width: number };
type Plan = Schemas["FilletPlan"];
type End = "front" | "rear";

/** One end of a journal with what stands beside it, and how a shell is narrowed until it clears. */
export function FilletView({ build, station, unit, width }: FilletViewProps) {
  // The end that decides is shown first.
  const worst = station.methods[0]?.ends.reduce<{ axial: string; clearance: number } | undefined>(
    (low, e) => (low && low.clearance <= e.clearance ? low : e),
    undefined,
  );
  const [chosen, setEnd] = useState<End>();
  const [asked, setAsked] = useState({ contact: "", claimed: "", tape: "" });
  const end = chosen ?? (worst?.axial === "rear" ? "rear" : "front");
  const body = { at: station.station, end, ...asked };
  const plan = useQuery({
    queryKey: ["fillet", build.code, build.assessment.seq, body],
    queryFn: () =>
      unwrap(api.POST("/api/v1/builds/{build}/fillet", { params: { path: { build: build.code } }, body })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const field = (name: keyof typeof asked, label: string, usual: string) => (
    <SmallField
      label={label}
      name={name}
      value={asked[name]}
      usual={usual}
      onChange={(text) => setAsked((a) => ({ ...a, [name]: text }))}
    />
  );
  return (
    <div className="mt-1" data-fillet={`${station.station} ${end}`}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Segments
          label="End of the journal"
          value={end}
          onChange={setEnd}
          options={[
            { value: "front", text: "Front" },
            { value: "rear", text: "Rear" },
          ]}
        />
        {field("contact", "Contact width", "not known")}
        {field("claimed", "A narrow series claims", "none")}
        {field("tape", "Tape on the mandrel", "none")}
      </div>
      <ProblemNote problem={plan.error} />
      {plan.data && !plan.error && (
        <>
          <FilletSection plan={plan.data} unit={unit} width={width} />
          <Words plan={plan.data} unit={unit} />
          {plan.data.take > 0 && (
            <button type="button" className="btn mt-2" onClick={() => window.print()}>
              Print for the lathe
            </button>
          )}
          {plan.data.take > 0 && <LathePaper build={build} plan={plan.data} unit={unit} />}
        </>
      )}
    </div>
  );
}

function Words({ plan, unit }: { plan: Plan; unit: Unit }) {
  const step = unit === "in" ? "thou" : "\u00b5m";
  const steps = (nm: number) => `${lineText(nm, unit)} ${step}`;
  const size = (nm: number) => <Figure nm={nm} unit={unit} className="font-bold" />;
  const { cost, claimed, body } = plan;
  return (
    <div className="mt-1.5 text-small leading-snug" data-take={plan.take}>
      {plan.take > 0 ? (
        <>
          <div className="flex items-center gap-3 border-t border-hair-strong pt-1.5">
            <span className="text-[27px]/none text-dye">{size(plan.take)}</span>
            <p>
              <b>Off the {plan.end} edge of both halves, the least that clears.</b> The corner of its chamfer
              then stands {steps(plan.after.corner_room)} clear, its flat begins{" "}
              {plan.beyond != null && plan.beyond > 0 && `${steps(plan.beyond)} beyond `}
              where the radius ends.
            </p>
          </div>
          <p className="mt-1">
            Passes:{" "}
            <span className="num">
              {plan.passes.map((p, i) => (
                <span key={p.dial}>
                  {i > 0 && ", "}
                  <Digits text={lineText(p.cut, unit)} /> → <Digits text={lineText(p.dial, unit)} />
                </span>
              ))}
            </span>{" "}
            {step}, then a spring pass. The dial is the saddle's: a length, not a diameter.
            {plan.mandrel != null && <> Mandrel {size(plan.mandrel)}, measured cool.</>} Prove the stop on a
            used shell; cut the spares in the same set-up; break both edges, clean, look, and measure the
            inset again.
          </p>
          {cost && (
            <p className="mt-1">
              It bears over {size(cost.contact)}: {(cost.lost / 10).toFixed(1)} % less, load up by{" "}
              {(cost.load / 10).toFixed(1)} %.
              {cost.ask_the_lead && <b> More than a tenth: the lead decides.</b>}
            </p>
          )}
        </>
      ) : (
        <p className="border-t border-hair-strong pt-1.5">
          <b>It clears as it is.</b> Corner of the chamfer {steps(plan.now.corner_room)} from the arc, wanted{" "}
          {steps(plan.margin)}.
        </p>
      )}
      {claimed && (
        <p className="mt-1" data-claimed={claimed.room}>
          The narrow series, computed: {steps(claimed.room)}{" "}
          {claimed.clears ? "clears by its number" : "does not clear, whatever its number says"}. Measure what
          comes.
        </p>
      )}
      {body && (
        <p className="mt-1">
          The rod's own edge stands {steps(body.room)} {body.clears ? "clear" : "clear, less than is wanted"}.
        </p>
      )}
    </div>
  );
}
