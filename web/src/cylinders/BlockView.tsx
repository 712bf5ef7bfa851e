import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { NotedTable } from "../noted/NotedTable";
import { Figure } from "../shared/Figure";
import { ProblemNote } from "../shared/ProblemNote";
import { SmallField } from "../shared/SmallField";
import { positionPhrase } from "../shared/words";
import { DeckElevation } from "./DeckElevation";
import { GridView } from "./GridView";

type Plan = Schemas["BlockPlan"];

const PART: Record<Schemas["StackPart"], string> = {
  deck: "deck height",
  stroke: "stroke",
  rod: "rod length",
  crown: "compression height",
};

type BlockViewProps = { build: Build; unit: Unit; chosen?: string; width: number };

/** The block as a whole: decks, the stack under every piston, the tunnel, strokes, and what a cut changes elsewhere. */
export function BlockView({ build, unit, chosen, width }: BlockViewProps) {
  const [cut, setCut] = useState({ deck: "", caps: "" });
  const plan = useQuery({
    queryKey: ["block", build.code, build.assessment.seq, cut],
    queryFn: () =>
      unwrap(
        api.GET("/api/v1/builds/{build}/block", {
          params: { path: { build: build.code }, query: cut },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const found = plan.data;
  return (
    <div className="mt-2" data-block="">
      <div className="flex flex-wrap gap-4">
        <SmallField
          label="Off the deck"
          name="deck"
          value={cut.deck}
          usual="nothing"
          onChange={(deck) => setCut({ ...cut, deck })}
        />
        <SmallField
          label="Off the caps, then line honed"
          name="caps"
          value={cut.caps}
          usual="nothing"
          onChange={(caps) => setCut({ ...cut, caps })}
        />
      </div>
      <ProblemNote problem={plan.error} />
      {found && !plan.error && (
        <>
          {(cut.deck.trim() !== "" || cut.caps.trim() !== "") && (
            <Changes changes={found.changes} unit={unit} />
          )}
          <Decks plan={found} unit={unit} width={width} />
          <Stacks plan={found} unit={unit} />
          <Tunnel plan={found} unit={unit} />
          <Crank plan={found} unit={unit} />
          <GridView build={build} unit={unit} face={faceOf(chosen)} />
          <NotedTable
            build={build}
            title="Roughness of the faces"
            of="Face"
            stations={facesOf(build)}
            notes={["roughness"]}
            chosen={chosen}
          >
            Across the lay, away from edges. How rough a face may be stands in the rules of the build.
          </NotedTable>
        </>
      )}
    </div>
  );
}

/** Every face of the engine. */
function facesOf(build: Build): string[] {
  return build.assessment.figures.filter((f) => f.figure === "face_flatness").map((f) => f.station);
}

/** The face that is chosen, else the first deck. */
function faceOf(chosen: string | undefined): string {
  return chosen && /^[DH]\d/.test(chosen) ? chosen : "D1";
}

function useFigures(unit: Unit) {
  return {
    size: (nm: number) => <Figure nm={nm} unit={unit} />,
    small: (nm: number) => <Figure nm={nm} unit={unit} as="clearance" />,
  };
}

function Changes({ changes: c, unit }: { changes: Schemas["CutChanges"]; unit: Unit }) {
  const { small } = useFigures(unit);
  return (
    <p className="mt-2 border-l-4 border-ink pl-3 leading-snug" data-changes={c.clearance}>
      <b>Before it is ordered:</b> every deck clearance loses {small(c.clearance)}
      {c.least && (
        <>
          , the least is then {c.least.at} with {small(c.least.left)}
        </>
      )}
      ; every volume loses <span className="num">{c.volume_cc.toFixed(2)}</span> cc, so compression rises.
      {c.axis !== 0 && (
        <>
          {" "}
          The crank's axis goes {small(c.axis)} into the block: {small(c.chain)} of chain slack more,{" "}
          {small(c.backlash)} of backlash less.
        </>
      )}{" "}
      What pistons have to valves and head goes down with it.
    </p>
  );
}

function Decks({ plan, unit, width }: { plan: Plan; unit: Unit; width: number }) {
  const { size, small } = useFigures(unit);
  return (
    <ul className="mt-2">
      {plan.decks.map((d) => (
        <li key={d.at} className="leading-snug" data-deck={d.at}>
          <DeckElevation
            deck={d}
            stacks={plan.stacks.filter((s) => s.deck === d.at)}
            cut={plan.changes.clearance}
            unit={unit}
            width={width}
          />
          <b>{d.at}</b>{" "}
          {d.mean == null ? (
            "its four corners are not measured."
          ) : (
            <>
              {size(d.mean)} in the mean, twist {small(Math.abs(d.twist ?? 0))},{" "}
              {d.front_high === 0 ? (
                "level end to end"
              ) : (
                <>
                  {(d.front_high ?? 0) > 0 ? "front" : "rear"} {small(Math.abs(d.front_high ?? 0))} higher
                </>
              )}
              . <span className="text-note text-ink-2">Dashes over a crown: what its parts come to.</span>
              {d.misread && (
                <span className="font-semibold text-tight" data-misread="">
                  {" "}
                  Touch the {positionPhrase("deck_corner", "deck", d.misread.position)} again: it reads{" "}
                  {small(Math.abs(d.misread.by))} too {d.misread.by > 0 ? "high" : "low"}, by the twist and
                  the stacks below it.
                </span>
              )}
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

function Table({ head, children }: { head: string[]; children: ReactNode }) {
  return (
    <table className="mt-2 w-full text-small">
      <thead className="text-left text-note text-ink-2">
        <tr>
          {head.map((h) => (
            <th key={h} className="pr-2 font-normal">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
}

function Stacks({ plan, unit }: { plan: Plan; unit: Unit }) {
  const { small } = useFigures(unit);
  const or = (nm: number | null | undefined) => (nm == null ? "\u2013" : small(nm));
  return (
    <Table head={["Stack", "Reckoned", "Measured", "Differ by", "It comes to"]}>
      {plan.stacks.map((s) => {
        const off =
          s.agrees === false
            ? s.suspect
              ? `look at the ${PART[s.suspect]}: misread, it would explain this`
              : "more than the gauges leave open: something is not as measured"
            : undefined;
        return (
          <tr key={s.at} className="border-t border-hair" data-stack={s.at}>
            <th scope="row" className="py-1 text-left font-bold">
              {s.at}
            </th>
            <td>{or(s.reckoned)}</td>
            <td className="font-bold">{or(s.measured)}</td>
            <td>{or(s.differs)}</td>
            <td className={off ? "font-semibold text-tight" : "text-ink-2"}>
              {off ??
                (s.missing.length > 0
                  ? `no ${s.missing.map((m) => PART[m]).join(", ")} yet`
                  : s.agrees == null
                    ? "not measured below the deck"
                    : "agrees")}
            </td>
          </tr>
        );
      })}
    </Table>
  );
}

function Tunnel({ plan, unit }: { plan: Plan; unit: Unit }) {
  const { small } = useFigures(unit);
  if (plan.tunnel.length === 0) return null;
  return (
    <Table head={["Tunnel", "", "Under the edge", "Freed of its size", "To its neighbours"]}>
      {plan.tunnel.map((m) => (
        <tr key={`${m.at} ${m.angle}`} className="border-t border-hair" data-tunnel={`${m.at} ${m.angle}`}>
          <th scope="row" className="py-1 text-left font-bold">
            {m.at}
          </th>
          <td>{m.angle === 0 ? "vertical" : "horizontal"}</td>
          <td>{small(m.gap)}</td>
          <td className="font-bold">{m.offset == null ? "housing sizes first" : small(m.offset)}</td>
          <td>{m.step == null ? "\u2013" : small(m.step)}</td>
        </tr>
      ))}
    </Table>
  );
}

function Crank({ plan, unit }: { plan: Plan; unit: Unit }) {
  const { size, small } = useFigures(unit);
  if (plan.strokes.length + plan.index.length === 0) return null;
  return (
    <p className="mt-2 text-small leading-snug">
      {plan.strokes.map((s) => (
        <span key={s.at} data-stroke={s.at}>
          <b>{s.at}</b> {size(s.stroke)}
          {s.longer !== 0 && (
            <>
              {" "}
              ({small(Math.abs(s.longer))} {s.longer > 0 ? "longer" : "shorter"}, half of it at its deck)
            </>
          )}
          {"; "}
        </span>
      ))}
      {plan.index.map((i) => (
        <span key={i.at} data-index={i.at}>
          <b>{i.at}</b> {small(Math.abs(i.high))} {i.high >= 0 ? "over" : "under"} {i.with.join(", ")}:{" "}
          <span className="num">{Math.abs(i.degrees).toFixed(3)}</span>°;{" "}
        </span>
      ))}
    </p>
  );
}
