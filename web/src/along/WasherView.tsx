import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { Choice, Segments } from "../shared/Choice";
import { lineText, stepPhrase } from "../shared/figure";
import { ProblemNote } from "../shared/ProblemNote";
import { FitWashersDialog } from "./FitWashersDialog";
import { SaddlePair } from "./SaddlePair";
import { keyOfChoice, useWashers, type WasherChoice } from "./useWashers";
import { WasherLists } from "./WasherLists";
import { WasherRows } from "./WasherRows";

type WasherViewProps = { build: Build; unit: Unit; width: number };

/** Which washers put end play right, proven best, and what each does to the crank. */
export function WasherView({ build, unit, width }: WasherViewProps) {
  const { boxes, fits, asked, set, proposal } = useWashers(build);
  const [key, setKey] = useState<string>();
  const [fitting, setFitting] = useState(false);
  const [listing, setListing] = useState(false);
  const found = proposal.data;
  const box = fits.find((b) => b.washers.id === asked.from);
  const chosen = found?.choices.find((c) => keyOfChoice(c) === key) ?? found?.choices[0];
  if (boxes.data && fits.length === 0) return <WithoutBox build={build} unit={unit} />;
  return (
    <div className="mt-1" data-washers-of={asked.from}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <Choice
          label="Box"
          showLabel={fits.length > 1}
          value={asked.from}
          options={fits.map((b) => ({ value: b.washers.id, text: b.washers.name }))}
          onChange={(from) => set({ from })}
        />
        <Segments
          label="Best"
          value={asked.best}
          onChange={(best) => set({ best })}
          options={[
            { value: "closest", text: "Closest" },
            { value: "thriftiest", text: "Thriftiest" },
            { value: "fewest", text: "Fewest" },
          ]}
        />
        <label className="flex h-7 items-center gap-1.5 text-small">
          <input
            type="checkbox"
            checked={asked.lap}
            onChange={(e) => set({ lap: e.target.checked })}
            className="size-4"
          />
          Lap
        </label>
        <label className="ml-auto flex items-center gap-2 text-small whitespace-nowrap text-ink-2">
          Crank stands
          <input
            name="stands"
            className="num h-7 w-[76px] border border-hair-strong bg-paper px-2"
            value={asked.stands}
            placeholder="unknown"
            title="Forward of the middle of its rods; with a minus, back"
            autoComplete="off"
            onChange={(e) => set({ stands: e.target.value })}
          />
        </label>
      </div>
      <ProblemNote problem={proposal.error} />
      {found && chosen && (
        <>
          <WasherRows
            proposal={found}
            chosen={chosen}
            unit={unit}
            width={width}
            onChoose={(c) => setKey(keyOfChoice(c))}
          />
          <p className="mt-2 text-small leading-snug">{words(found, chosen, unit)}</p>
          {found.tight && <Tight plan={found.tight} unit={unit} />}
          {chosen.sides_changed > 0 && <SaddlePair now={found.now} then={chosen} unit={unit} width={width} />}
          <div className="sticky -bottom-1 mt-2 flex justify-end gap-3 border-t border-hair bg-paper py-2">
            {chosen.sides_changed > 0 && (
              <button type="button" className="btn flex-none" onClick={() => setListing(true)}>
                Pick and order
              </button>
            )}
            <button
              type="button"
              className="btn flex-none"
              disabled={chosen.sides_changed === 0 || chosen.buy.length > 0 || chosen.state === "tight"}
              onClick={() => setFitting(true)}
            >
              Take these washers
            </button>
          </div>
          {listing && box && (
            <WasherLists build={build} box={box} choice={chosen} onClose={() => setListing(false)} />
          )}
          {fitting && (
            <FitWashersDialog build={build} ask={asked} choice={chosen} onClose={() => setFitting(false)} />
          )}
        </>
      )}
    </div>
  );
}

/** What the chosen row comes to, in a sentence or three. */
function words(p: Schemas["WasherProposal"], c: WasherChoice, unit: Unit) {
  const best = p.choices[0] === c;
  const stands =
    c.stands == null
      ? ""
      : c.stands === 0
        ? " The crank then stands in the middle of its rods."
        : ` The crank then stands ${stepPhrase(c.stands, unit)} ${c.stands > 0 ? "forward" : "back"} of the middle of its rods.`;
  const step = unit === "in" ? "thou" : "\u00b5m";
  const eaten = c.leaves
    .map(
      (r) =>
        ` ${r.at} has the least room ${r.figure === "rod_side" ? "beside its rods" : "at a fillet"}: ${lineText(r.now, unit)}${r.figure === "rod_side" ? " a cheek" : ""}, then at least ${lineText(r.left, unit)} ${step}.`,
    )
    .join("");
  const buy = c.buy.map((b) => `${b.halves} halves of ${b.class} have to come in first. `).join("");
  const predicted =
    c.sides_changed > 0
      ? ` Fitted, E is predicted to ±${stepPhrase(c.expanded, unit)} until it is pushed again.`
      : "";
  return (
    <>
      {best && <b>Best there is, proven: </b>}
      {best && `of ${p.weighed} pairs ${p.inside} land inside. `}
      {p.either_side && <b>Either side does: where does the crank stand? Type it, and the side follows. </b>}
      {buy}
      {predicted.trim()}
      {stands}
      {eaten}
    </>
  );
}

function Tight({ plan, unit }: { plan: Schemas["TightPlan"]; unit: Unit }) {
  const other = plan.first === "front" ? "rear" : "front";
  const off = (nm: number) => `${lineText(nm, unit)} ${unit === "in" ? "thou" : "\u00b5m"}`;
  return (
    <p className="mt-2 border-l-4 border-ink pl-3 leading-snug">
      <b>Tight, and no washer makes room.</b> First clean, seat again, and look for a half in the wrong place.
      Then {off(plan.total)} comes off in all,{" "}
      {plan.off_faces ? "off the bearing faces" : "off the steel backs, every half of a side alike"}:{" "}
      {off(plan.off_first)} at the {plan.first}, which carries no load
      {plan.off_second > 0 && `, and ${off(plan.off_second)} at the ${other}`}.{" "}
      {plan.off_faces
        ? "Its oil grooves have to remain; the loaded side keeps its face as it came."
        : "The loaded side keeps its face and its grooves."}
      {plan.short > 0 &&
        ` ${off(plan.short)} are still missing: the crank's cheeks ground apart, which touches its fillets and is for life.`}
    </p>
  );
}

/** Nothing on the shelf: which washers would do, whoever sells them. */
function WithoutBox({ build, unit }: { build: Build; unit: Unit }) {
  const need = useQuery({
    queryKey: ["thrust-need", build.code, build.assessment.seq],
    queryFn: () =>
      unwrap(api.GET("/api/v1/builds/{build}/thrust-need", { params: { path: { build: build.code } } })),
    retry: false,
  });
  const { growth, within } = need.data ?? {};
  const step = unit === "in" ? "thou" : "\u00b5m";
  const thicker = (nm: number) =>
    nm === 0 ? "no thicker" : `${lineText(Math.abs(nm), unit)} ${step} ${nm > 0 ? "thicker" : "thinner"}`;
  return (
    <section aria-label="Washers that would do" className="mt-4 grid gap-2 leading-snug">
      {growth !== undefined && (
        <p data-thrust-need={growth}>
          <b>Both sides together {thicker(growth)}</b> bring end play to its aim.{" "}
          {within
            ? `Anything from ${thicker(within[0] ?? growth)} to ${thicker(within[1] ?? growth)} lands inside: on one side alone, or shared.`
            : "No washer brings both positions inside: they differ by more than the window. A face is out of square."}
        </p>
      )}
      <ProblemNote problem={need.error} />
      <p className="text-ink-2">
        <b className="text-ink">No washers on the shelf for this unit.</b> Add a box of them in the shell
        room: their thicknesses, how many halves lie where, and what they stand between.
      </p>
    </section>
  );
}
