import type { Schemas, Unit } from "../api/client";
import { Box } from "../shared/Box";
import { Digits, Figure } from "../shared/Figure";
import { stepPhrase, stepText } from "../shared/figure";
import { minutesText } from "../shared/words";
import { moneyText, waysText } from "./money";
import type { Best, WhatIf } from "./useProposal";

type Proposal = Schemas["Proposal"];

type ReasonsProps = {
  closest: Proposal | undefined;
  thriftiest: Proposal | undefined;
  best: Best;
  ask: WhatIf;
  family: Schemas["ShellFamily"] | undefined;
  /** The family's own allowance for a coating, as typed; empty where there is none. */
  coating: string;
  unit: Unit;
  /** Whether clearances are shown hot as well; absent where the housings hardly open. */
  hot: boolean | undefined;
  onHot: (hot: boolean) => void;
  onBest: (best: Best) => void;
  onAsk: (ask: WhatIf) => void;
  onWithout: (name: string) => void;
};

const OBJECTIVE: Record<Best, { title: string; means: string }> = {
  closest: { title: "Closest to aim", means: "least worst, then least in all" },
  thriftiest: { title: "Least to buy", means: "least money, then closest" },
};

/** By what is chosen, what if, and why nothing beats it. */
export function Reasons(props: ReasonsProps) {
  const { closest, thriftiest, best, ask, family, unit, onBest, onAsk } = props;
  const proposal = best === "closest" ? closest : thriftiest;
  const other: Record<Best, Proposal | undefined> = { closest, thriftiest };
  const inside = (p: Proposal) => p.places.filter((place) => place.state === "in").length;
  return (
    <>
      <table className="w-full text-small">
        <thead>
          <tr className="text-left text-note text-ink-2">
            <th className="font-medium">
              <span className="sr-only">Objective</span>
            </th>
            <th className="font-medium">Proven in</th>
            <th className="font-medium">Worst off</th>
            <th className="font-medium">Buy</th>
          </tr>
        </thead>
        <tbody>
          {(["closest", "thriftiest"] as const).map((b) => {
            const p = other[b];
            return (
              <tr key={b} className={`border-t border-hair-strong ${b === best ? "bg-dye-wash" : ""}`}>
                <td className="py-1.5">
                  <button
                    type="button"
                    aria-pressed={b === best}
                    data-best={b}
                    onClick={() => onBest(b)}
                    className="flex items-start gap-2 text-left"
                  >
                    <Box on={b === best} className="mt-0.5 size-3.5" />
                    <span>
                      <b className={b === best ? "text-dye" : ""}>{OBJECTIVE[b].title}</b>
                      <span className="block text-note text-ink-2">{OBJECTIVE[b].means}</span>
                    </span>
                  </button>
                </td>
                <td className="num pr-2 font-bold max-[1150px]:text-note">
                  {p ? `${inside(p)} of ${p.places.length}` : ""}
                </td>
                <td className="num">{p && <Digits text={stepText(p.worst, unit)} />}</td>
                <td className="num">
                  <Digits text={p ? (p.cost > 0 ? moneyText(p.cost) : "none") : ""} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <h3 className="mt-3 text-small font-bold">What if</h3>
      <div className="mt-1 flex flex-wrap gap-1.5">
        <Toggle on={ask.mix} text="Mix halves" onPress={() => onAsk({ ...ask, mix: !ask.mix })} />
        <Toggle on={ask.buy} text="Buy sets" onPress={() => onAsk({ ...ask, buy: !ask.buy })} />
        {family?.classes.map((c) => (
          <Toggle
            key={c.id}
            on={!ask.without.includes(c.id)}
            text={`Use ${c.id}`}
            onPress={() => props.onWithout(c.id)}
          />
        ))}
        {props.hot !== undefined && (
          <Toggle on={props.hot} text="Hot" onPress={() => props.onHot(!props.hot)} />
        )}
        {props.coating !== "" && (
          <Toggle
            on={ask.coating !== ""}
            text="Coat them"
            name="coat"
            onPress={() => onAsk({ ...ask, coating: ask.coating === "" ? props.coating : "" })}
          />
        )}
        <label className="flex items-center gap-1.5 text-small text-ink-2">
          <span className="sr-only">coated by</span>
          <input
            type="text"
            aria-label="What a coating on both halves changes"
            value={ask.coating}
            placeholder={unit === "in" ? "-0.0005" : "-0.010"}
            onChange={(e) => onAsk({ ...ask, coating: e.target.value })}
            className="num h-7 w-[82px] border border-hair-strong bg-paper px-1.5"
          />
        </label>
      </div>
      {ask.moved !== 0 && proposal?.places[0] && (
        <p className="mt-1.5 text-small" data-moved={ask.moved}>
          <b>Target moved</b> to aim{" "}
          <Figure nm={proposal.places[0].target.aim} unit={unit} as="clearance" className="font-bold" />, to
          see.{" "}
          <button
            type="button"
            className="text-dye underline underline-offset-2"
            onClick={() => onAsk({ ...ask, moved: 0 })}
          >
            Put it back
          </button>
        </p>
      )}
      {proposal && <Why proposal={proposal} unit={unit} />}
    </>
  );
}

type ToggleProps = { on: boolean; text: string; name?: string; onPress: () => void };

/** Something that is let in or left out: its box says which. */
function Toggle({ on, text, name, onPress }: ToggleProps) {
  return (
    <button
      type="button"
      aria-pressed={on}
      data-toggle={name}
      onClick={onPress}
      className={`flex h-7 items-center gap-1.5 border px-2 text-small font-semibold ${
        on ? "border-dye bg-dye-wash text-dye" : "border-hair-strong bg-paper text-ink-2"
      }`}
    >
      <Box on={on} className="size-3" />
      {text}
    </button>
  );
}

function Why({ proposal, unit }: { proposal: Proposal; unit: Unit }) {
  const changing = proposal.places.filter((p) => p.changes).map((p) => p.station);
  const next = proposal.next_best[0];
  return (
    <>
      <h3 className="mt-3 text-small font-bold">
        {proposal.proven ? "Why nothing beats it" : "The best found in the time"}
      </h3>
      <p className="text-small leading-snug" data-proven={proposal.proven}>
        {proposal.proven
          ? `Best of all ${waysText(proposal.ways)} ways, gap 0. `
          : `Its worst might still shrink by ${stepPhrase(proposal.gap, unit)}. `}
        {proposal.binding && proposal.worst > 0 && (
          <>
            <b>{proposal.binding}</b> binds: {stepPhrase(proposal.worst, unit)} off aim, and no pair brings it
            nearer.{" "}
          </>
        )}
        All added, {stepPhrase(proposal.total, unit)} off aim.
        {proposal.mixed > 0 &&
          ` ${proposal.mixed} mixed ${proposal.mixed === 1 ? "pair" : "pairs"}: the ledge at the parting line lies inside the relief.`}
      </p>
      {proposal.outside > 0 && <Outside proposal={proposal} unit={unit} />}
      {next && (
        <p className="mt-1 text-small leading-snug" data-next-best={next.differs.length}>
          <b>Next best</b>, {next.outside > 0 && `${next.outside} outside, `}worst{" "}
          {stepText(next.worst, unit)}
          {next.cost > 0 && `, ${moneyText(next.cost)}`}:{" "}
          {next.differs.map((d) => `${d.station} ${d.pair.upper} over ${d.pair.lower}`).join(", ")}.
        </p>
      )}
      {proposal.buy.length > 0 && (
        <>
          <h3 className="mt-2 text-small font-bold">Order</h3>
          <ul className="text-small">
            {proposal.buy.map((b) => (
              <li key={b.part_number} className="flex border-b border-hair py-0.5">
                <span className="flex-1">
                  {b.sets} &times; <b className="num">{b.part_number}</b>
                </span>
                <span className="num">
                  <Digits text={moneyText(b.price)} />
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {changing.length > 0 && (
        <p className="mt-2 border-t border-hair-strong pt-1.5 text-small leading-snug">
          <b>Fitting makes {changing.join(", ")} predicted</b>, not proven, until measured again: about{" "}
          {minutesText(proposal.estimate.minutes)}.
        </p>
      )}
    </>
  );
}

/** What no shells of this family bring inside, and what would. */
function Outside({ proposal, unit }: { proposal: Proposal; unit: Unit }) {
  const { remedies, outside } = proposal;
  return (
    <div className="mt-1 bg-ink px-2 py-1.5 text-small leading-snug text-white" data-outside={outside}>
      <b>{outside === 1 ? "One bearing stays" : `${outside} bearings stay`} outside.</b>{" "}
      {remedies?.places.map((p) => (
        <span key={p.station} data-remedy={p.station}>
          {p.station} wants {stepPhrase(p.wants, unit)} {p.wants > 0 ? "more" : "less"}
          {p.housing != null && (
            <>
              : housing at <Figure nm={p.housing} unit={unit} className="text-white" />
            </>
          )}
          .{" "}
        </span>
      ))}
      {remedies?.grind ? (
        <span data-remedy-grind="">
          Ground to <Figure nm={remedies.grind.size} unit={unit} className="text-white" /> for shells{" "}
          <Figure nm={remedies.grind.undersize} unit={unit} className="text-white" /> under, all come inside.
        </span>
      ) : (
        remedies && "No grind serves them all either: a housing, or another target."
      )}
    </div>
  );
}
