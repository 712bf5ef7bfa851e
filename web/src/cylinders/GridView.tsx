import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Build, type Schemas, type Unit, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Digits, Figure } from "../shared/Figure";
import { lineText } from "../shared/figure";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { SmallField } from "../shared/SmallField";

type GridViewProps = { build: Build; unit: Unit; face: string };
type GridFace = Schemas["GridFace"];

/** Bridge readings over a face on a grid: where it stands high, and between which two planes all of it lies. */
export function GridView({ build, unit, face }: GridViewProps) {
  const params = { path: { build: build.code } };
  const grids = useQuery({
    queryKey: ["grids", build.code, build.assessment.seq],
    queryFn: () => unwrap(api.GET("/api/v1/builds/{build}/grids", { params })),
    retry: false,
  });
  const here = (grids.data ?? []).find((g) => g.at === face);
  return (
    <section className="mt-3" aria-label={`Bridge over ${face}`}>
      <h3 className="border-b border-ink pb-0.5 font-bold">Bridge over {face}</h3>
      <ProblemNote problem={grids.error} />
      {here && <Grid grid={here} unit={unit} />}
      <GridForm build={build} face={face} unit={unit} />
    </section>
  );
}

function Grid({ grid, unit }: { grid: GridFace; unit: Unit }) {
  const small = (nm: number) => <Figure nm={nm} unit={unit} as="clearance" className="font-bold" />;
  return (
    <div data-grid={grid.at} data-flat={grid.flat == null ? "open" : grid.flat}>
      <p className="mt-1 leading-snug">
        All of it lies between two planes {small(grid.minimum_zone)} apart; over the plane of least squares it
        spans {small(grid.least_squares)}.{" "}
        {grid.limit != null && (
          <b className={grid.flat ? "" : "text-tight"}>
            {grid.flat ? "Flat: " : "Not flat: "}at most {small(grid.limit)}.
          </b>
        )}
      </p>
      <table className="mt-1 text-small" aria-label={`Places over the plane, ${grid.at}`}>
        <tbody>
          {grid.off.map((row, i) => (
            <tr key={i}>
              {row.map((nm, j) => (
                <td key={j} className="num border border-hair px-2 py-0.5 text-right">
                  {nm > 0 && "+"}
                  <Digits text={lineText(nm, unit)} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-note text-ink-2">
        {unit === "in" ? "thou" : "\u00b5m"} over the plane, front at the left; {grid.by.name}.
      </p>
    </div>
  );
}

function GridForm({ build, face, unit }: { build: Build; face: string; unit: Unit }) {
  const client = useQueryClient();
  const [id, setId] = useState(newId);
  const [steps, setSteps] = useState({ along: "", across: "" });
  const [readings, setReadings] = useState("");
  const record = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/grids", {
          params: { path: { build: build.code } },
          body: { id, at: face, ...steps, readings, note: "" },
        }),
      ),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      setId(newId());
      setReadings("");
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    record.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-2 grid gap-2">
      <div className="flex flex-wrap gap-4">
        <SmallField
          label="Place to place"
          name="along"
          value={steps.along}
          usual={unit === "in" ? "3.0" : "75"}
          onChange={(along) => setSteps({ ...steps, along })}
        />
        <SmallField
          label="Line to line"
          name="across"
          value={steps.across}
          usual={unit === "in" ? "2.0" : "50"}
          onChange={(across) => setSteps({ ...steps, across })}
        />
      </div>
      <label className="text-note text-ink-2">
        What the bridge showed: a line for each line across, blanks between, minus where it is lower
        <textarea
          name="readings"
          rows={3}
          value={readings}
          onChange={(e) => setReadings(e.target.value)}
          className="num mt-0.5 block w-full border border-hair-strong bg-paper p-2 text-small text-ink"
        />
      </label>
      <ProblemNote problem={record.error} />
      <div className="flex justify-end">
        <button
          type="submit"
          className="btn min-h-8 px-3 text-small"
          disabled={record.isPending || readings.trim() === ""}
        >
          Record the grid
        </button>
      </div>
    </form>
  );
}
