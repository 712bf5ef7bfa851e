import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas, type Unit, unwrap } from "../api/client";
import { Figure } from "../shared/Figure";
import { ProblemNote } from "../shared/ProblemNote";

type NumberReaderProps = { check: Schemas["FamilyCheck"] | undefined; unit: Unit };

const TRAIT: Record<Schemas["ShellTrait"], string> = {
  coated: "coated",
  narrowed: "narrowed",
  dowel: "a dowel hole",
  grooved: "a grooved upper",
};

/** Takes a part number apart by the shop's table, and holds it against the crank. */
export function NumberReader({ check, unit }: NumberReaderProps) {
  const [number, setNumber] = useState("");
  const body: Schemas["AskNumber"] = {
    number: number.trim(),
    measured: check?.undersize ?? null,
    mixed: check?.mixed ?? false,
  };
  const read = useQuery({
    queryKey: ["number", body],
    queryFn: () => unwrap(api.POST("/api/v1/shells/read-number", { body })),
    enabled: body.number !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
  const view = body.number === "" || read.isError ? undefined : read.data;
  return (
    <>
      <h2 className="text-lead font-bold">Read a part number</h2>
      <input
        type="text"
        aria-label="Part number"
        name="number"
        value={number}
        autoComplete="off"
        placeholder="such as CMGS25"
        onChange={(e) => setNumber(e.target.value)}
        className="field-input num mt-2"
      />
      {body.number === "" && (
        <p className="mt-2 text-small text-ink-2">
          Every letter is read by the shop's own table, and held against what the journals measure before
          anything is ordered.
        </p>
      )}
      {body.number !== "" && <ProblemNote problem={read.error} />}
      {view && (
        <div className="mt-3" data-number={view.family}>
          <b>{view.name}</b>
          <table className="mt-1 w-full text-small">
            <caption className="sr-only">What its letters mean</caption>
            <tbody>
              {view.decoded.groups.map((g, i) => (
                <tr key={`${i}${g.letters}`} className="border-t border-hair">
                  <th scope="row" className="num w-16 py-1 text-left text-[15px]">
                    {g.letters}
                  </th>
                  <td className={g.means ? "" : "font-semibold"}>
                    {g.means ? <MeansText means={g.means} unit={unit} /> : "not in the table"}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {view.conflicts.length === 0 ? (
            <p className="mt-3 text-small" data-conflicts="0">
              <b>Nothing speaks against it.</b>
            </p>
          ) : (
            <ul className="mt-3 grid gap-1" data-conflicts={view.conflicts.length}>
              {view.conflicts.map((c) => (
                <li key={c.kind} className="bg-ink px-2 py-1 text-small font-semibold text-white">
                  <ConflictText conflict={c} unit={unit} />
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
    </>
  );
}

function MeansText({ means, unit }: { means: Schemas["SuffixMeaning"]; unit: Unit }) {
  switch (means.kind) {
    case "material":
      return means.name;
    case "class":
      return `class ${means.id}`;
    case "undersize":
      return means.undersize === 0 ? (
        "standard"
      ) : (
        <>
          <Figure nm={means.undersize} unit={unit} /> under
        </>
      );
    default:
      return TRAIT[means.kind];
  }
}

function ConflictText({ conflict, unit }: { conflict: Schemas["NumberConflict"]; unit: Unit }) {
  const size = (nm: number) =>
    nm === 0 ? (
      "standard"
    ) : (
      <>
        <Figure nm={nm} unit={unit} /> under
      </>
    );
  switch (conflict.kind) {
    case "unread":
      return `The table does not know ${conflict.letters}: ask before ordering.`;
    case "twice":
      return `${conflict.letters} say two things of one matter.`;
    case "lacks":
      return `This engine needs ${TRAIT[conflict.needs]}, and the number has none.`;
    case "undersize":
      return (
        <>
          The number is {size(conflict.number)}, the journals are{" "}
          {conflict.measured != null ? size(conflict.measured) : "of no single undersize"}: stop.
        </>
      );
    case "no_undersize":
      return <>The number names no undersize, and the journals are {size(conflict.measured)}.</>;
  }
}
