import { Fragment } from "react";
import type { Schemas, Unit } from "../api/client";
import { Figure } from "../shared/Figure";
import { ADDER_WORD } from "../shared/words";

type AimSumProps = { made: Schemas["AimMade"]; aim: number; unit: Unit };

/** What an aim is the sum of, term by term: nothing is counted twice. */
export function AimSum({ made, aim, unit }: AimSumProps) {
  const clearance = (nm: number) => <Figure nm={nm} unit={unit} as="clearance" />;
  const factor = made.per_million == null ? null : `${made.per_million / 1e6} of the bore`;
  const both = made.sheet != null && factor !== null;
  return (
    <span data-aim-sum="">
      Aim {clearance(aim)} = {both && "the larger of "}
      {made.sheet != null && <>sheet {clearance(made.sheet)}</>}
      {both && " and "}
      {factor}
      {(made.adders ?? []).map((a) => (
        <Fragment key={a.why}>
          {a.by < 0 ? " \u2212 " : " + "}
          {ADDER_WORD[a.why]} {clearance(Math.abs(a.by))}
        </Fragment>
      ))}
      {(made.covers ?? []).length > 0 && (
        <> (the sheet is for {(made.covers ?? []).map((why) => ADDER_WORD[why]).join(", ")} already)</>
      )}
    </span>
  );
}
