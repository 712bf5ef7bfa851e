import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { BuildFrame, WithBuild } from "../page/BuildPage";
import { Figure } from "../shared/Figure";
import { stepPhrase } from "../shared/figure";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { useShownUnit } from "../shared/units";
import { NumberReader } from "./NumberReader";
import { type Row, ShellsHead } from "./ShellsHead";
import { useFamilies } from "./useFamily";

type Check = Schemas["FamilyCheck"];
type Journal = Schemas["JournalCheck"];

/** Which shells the crank takes: catalogue, measurement and stamp side by side. */
export function CrankPage() {
  return <WithBuild>{(build) => <CrankOf build={build} />}</WithBuild>;
}

function CrankOf({ build }: { build: Build }) {
  const unit = useShownUnit(build.unit);
  const [row, setRow] = useState<Row>("mains");
  const { known, usual: here } = useFamilies(build, row);
  const check = useQuery({
    queryKey: ["crank", build.code, build.assessment.seq, here?.family.id, here?.version],
    queryFn: () =>
      unwrap(
        api.GET("/api/v1/builds/{build}/shells/check", {
          params: { path: { build: build.code }, query: { family: here?.family.id ?? "" } },
        }),
      ),
    enabled: here !== undefined,
  });
  return (
    <BuildFrame build={build} row={row}>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,888fr)_minmax(0,392fr)] relative overflow-auto">
        <section aria-label="Crank against catalogue and stamps" className="min-w-0 px-6 pt-3 pb-4">
          <ShellsHead build={build} row={row} onRow={setRow} />
          {known && !here && (
            <p className="mt-3">
              The shop keeps no family of shells for these journals: nothing to compare with.
            </p>
          )}
          <ProblemNote problem={check.error} />
          {here && check.data && (
            <>
              <Verdict check={check.data} row={row} unit={unit} />
              <CheckTable key={row} build={build} check={check.data} unit={unit} />
            </>
          )}
        </section>
        <section
          aria-label="Part numbers"
          className="relative border-l-[1.5px] border-ink bg-paper pt-3 pr-6 pb-4 pl-7"
        >
          <div className="grad-down absolute inset-y-0 left-0" />
          <NumberReader check={check.data} unit={unit} />
        </section>
      </main>
    </BuildFrame>
  );
}

function Verdict({ check, row, unit }: { check: Check; row: Row; unit: Unit }) {
  const measured = check.journals.filter((j) => j.measured != null).length;
  const what = row === "mains" ? "mains" : "pins";
  if (measured === 0) {
    return <p className="mt-3 text-lead">No journal is measured yet: the stamp alone orders nothing.</p>;
  }
  if (check.mixed) {
    return (
      <p className="mt-3 bg-ink px-3 py-2 font-semibold text-white" data-crank="mixed">
        The {what} are not of one undersize. Stop before shells are ordered: grind them to one size.
      </p>
    );
  }
  return (
    <p className="mt-3 text-lead" data-crank="one">
      <b>
        All {measured} measured {what} are{" "}
        {check.undersize === 0 || check.undersize == null ? (
          "standard"
        ) : (
          <>
            <Figure nm={check.undersize} unit={unit} /> under
          </>
        )}
      </b>
      , one undersize.
    </p>
  );
}

const SAYS: Record<Schemas["Says"], string> = {
  open: "not measured",
  agrees: "agrees",
  stamp_differs: "stamp differs: the measurement wins",
  not_of_family: "not of this family: stop before ordering",
};

function CheckTable({ build, check, unit }: { build: Build; check: Check; unit: Unit }) {
  return (
    <table className="mt-3 w-full text-[15px]">
      <caption className="sr-only">Journal by journal</caption>
      <thead>
        <tr className="text-left text-note text-ink-2">
          <th className="font-medium">Journal</th>
          <th className="font-medium">Measured</th>
          <th className="font-medium">Belongs to</th>
          <th className="font-medium">Catalogue</th>
          <th className="font-medium">Worn</th>
          <th className="font-medium">Stamp of the old shells</th>
          <th className="font-medium">So</th>
        </tr>
      </thead>
      <tbody>
        {check.journals.map((j) => (
          <tr
            key={j.station}
            data-journal={j.station}
            data-says={j.says}
            className={`h-10 border-t border-hair ${j.says === "stamp_differs" || j.says === "not_of_family" ? "bg-edge-wash" : ""}`}
          >
            <th scope="row" className="text-left">
              {j.station}
              {j.journal_at !== j.station && (
                <span className="font-normal text-ink-2"> on {j.journal_at}</span>
              )}
            </th>
            <td>
              {j.measured != null ? (
                <Figure nm={j.measured} unit={unit} className="font-bold" />
              ) : (
                <span className="text-ink-2">–</span>
              )}
            </td>
            <td>{j.undersize != null && under(j.undersize, unit)}</td>
            <td>{j.catalogue != null && <Figure nm={j.catalogue} unit={unit} className="text-ink-2" />}</td>
            <td className="text-small">
              {j.worn != null &&
                (j.worn === 0 ? "not" : `${stepPhrase(j.worn, unit)}${j.worn < 0 ? " over" : ""}`)}
            </td>
            <td>
              <StampCell build={build} journal={j} unit={unit} />
            </td>
            <td
              className={`text-small ${j.says === "agrees" || j.says === "open" ? "text-ink-2" : "font-bold"}`}
            >
              {SAYS[j.says]}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function under(undersize: number, unit: Unit) {
  return undersize === 0 ? (
    "standard"
  ) : (
    <>
      <Figure nm={undersize} unit={unit} /> under
    </>
  );
}

/** The stamp as it can be read, typed where it is shown. */
function StampCell({ build, journal, unit }: { build: Build; journal: Journal; unit: Unit }) {
  const client = useQueryClient();
  const [text, setText] = useState(journal.stamp ?? "");
  const record = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/stamps", {
          params: { path: { build: build.code } },
          body: { id: newId(), stamps: [{ station: journal.station, text }] },
        }),
      ),
    onSuccess: (recorded) => showRecorded(client, recorded),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() !== "" && text.trim() !== journal.stamp) record.mutate();
  };
  return (
    <form onSubmit={submit} className="flex items-center gap-2">
      <input
        type="text"
        aria-label={`Stamp of ${journal.station}'s old shells`}
        name={`stamp-${journal.station}`}
        value={text}
        placeholder="type it, Enter"
        autoComplete="off"
        onChange={(e) => setText(e.target.value)}
        className="num h-8 w-[112px] border border-hair-strong bg-paper px-1.5 text-[14px]"
      />
      <span className="text-note text-ink-2">
        {journal.stamp &&
          (journal.stamped != null ? <>says {under(journal.stamped, unit)}</> : "cannot be read")}
      </span>
      <ProblemNote problem={record.error} />
    </form>
  );
}
