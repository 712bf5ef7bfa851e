import { Fragment } from "react";
import { otherFigures } from "../api/catalog";
import type { Build, Unit } from "../api/client";
import { AimSum } from "../bench/AimSum";
import { Mark } from "../marks/Mark";
import { Digits, Figure } from "../shared/Figure";
import { stepText } from "../shared/figure";
import { LimitsText } from "../shared/Limits";
import { FIGURE_WORD, initials, METHOD_WORD, marked, shownState } from "../shared/words";
import { OpenStation } from "./OpenStation";
import { Values } from "./Values";

type FigureTableProps = { build: Build; unit: Unit; onOpen: (station: string) => void };

/** The figures that are no bearing's oil clearance, each with its limits. */
export function FigureTable({ build, unit, onOpen }: FigureTableProps) {
  const figures = otherFigures(build).filter((f) => f.asked);
  if (figures.length === 0) return null;
  const sums = new Map(figures.filter((f) => f.target?.made_of).map((f) => [f.target?.version ?? 0, f]));
  return (
    <>
      <table className="mb-2 w-full table-fixed border-collapse" aria-label="Other figures">
        <colgroup>
          <col className="w-[6%]" />
          <col className="w-[22%]" />
          <col className="w-[17%]" />
          <col className="w-[16%]" />
          <col className="w-[9%]" />
          <col className="w-[13%]" />
          <col />
        </colgroup>
        <thead>
          <tr className="h-6 border-b border-ink text-left text-small text-ink-2">
            <th className="font-medium">At</th>
            <th className="font-medium">Figure</th>
            <th className="font-medium">Limits</th>
            <th className="font-medium">Measured</th>
            <th className="font-medium">±{unit === "in" ? " tenths" : " µm"}</th>
            <th className="font-medium">Mark</th>
            <th className="font-medium">Note</th>
          </tr>
        </thead>
        <tbody>
          {figures.map((f) => (
            <tr
              key={`${f.station} ${f.figure}`}
              className="h-[26px] border-b border-hair"
              data-figure={`${f.station} ${f.figure}`}
              data-state={shownState(f)}
            >
              <OpenStation station={f.station} onOpen={onOpen} />
              <td className="text-[14px]">{FIGURE_WORD[f.figure]}</td>
              <td className="text-[14px] text-ink-2">
                <LimitsText f={f} unit={unit} />
              </td>
              <td className="text-[17px]">
                <Values f={f} unit={unit} />
              </td>
              <td className="num text-[14px] text-ink-2">
                {f.judged && <Digits text={stepText(f.judged.expanded, unit)} />}
              </td>
              <td>
                <Mark
                  state={marked(f, shownState(f))}
                  nearest={f.judged?.nearest ?? f.stale?.was.nearest}
                  was={f.stale?.was.state}
                  size={16}
                />
              </td>
              <td className="text-small leading-tight text-ink-2">
                {f.concession ? (
                  <b className="text-brass-ink">
                    {initials(f.concession.by.name)}: {f.concession.reason}
                  </b>
                ) : (
                  <>
                    {f.judged && METHOD_WORD[f.judged.method]}
                    {(f.hot ?? [])
                      .filter((hot) => !hot.estimate)
                      .map((hot) => (
                        <Fragment key={hot.by}>
                          ; hot, <Figure nm={hot.left} unit={unit} as="clearance" short /> left
                          {hot.by === "allowance" && " by allowance"}
                        </Fragment>
                      ))}
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {[...sums].map(([version, { figure, target }]) =>
        target?.made_of ? (
          <p key={version} className="mb-2 text-small text-ink-2">
            {FIGURE_WORD[figure]}: <AimSum made={target.made_of} aim={target.window.aim} unit={unit} />
          </p>
        ) : null,
      )}
    </>
  );
}
