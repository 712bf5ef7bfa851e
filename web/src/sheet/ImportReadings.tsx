import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Figure } from "../shared/Figure";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";
import { useShownUnit } from "../shared/units";

/** Reads readings from a file, after showing row by row what would be kept. */
export function ImportReadings({ build }: { build: Build }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="underline underline-offset-2" onClick={() => setOpen(true)}>
        Readings from a file
      </button>
      {open && <ImportDialog build={build} onClose={() => setOpen(false)} />}
    </>
  );
}

function ImportDialog({ build, onClose }: { build: Build; onClose: () => void }) {
  const client = useQueryClient();
  const unit = useShownUnit(build.unit);
  const [file, setFile] = useState<{ id: string; name: string; csv: string }>();
  const params = { path: { build: build.code } };
  const body = { id: file?.id ?? "", csv: file?.csv ?? "", unit, only_good: true };
  const preview = useMutation({
    mutationFn: async (chosen: File) => {
      const csv = await chosen.text();
      setFile({ id: newId(), name: chosen.name, csv });
      const body = { id: newId(), csv, unit, only_good: false };
      return unwrap(api.POST("/api/v1/builds/{build}/readings/preview", { params, body }));
    },
  });
  const keep = useMutation({
    mutationFn: () => unwrap(api.POST("/api/v1/builds/{build}/readings/import", { params, body })),
    onSuccess: (recorded) => {
      showRecorded(client, recorded);
      onClose();
    },
  });
  const found = preview.data;
  const template = `/api/v1/builds/${encodeURIComponent(build.code)}/readings-template.csv`;
  return (
    <Sheetlet open title="Readings from a file" onClose={onClose} width={760}>
      <div className="mt-2 grid gap-3">
        <p className="text-small text-ink-2">
          A comma-separated file with the columns of the{" "}
          <a href={template} download className="font-semibold text-dye underline underline-offset-2">
            template
          </a>
          , which lists every touch that is still wanted. Nothing is kept before you have seen it.
        </p>
        <label className="btn justify-self-start focus-within:outline-3 focus-within:outline-dye">
          Choose a file
          <input
            type="file"
            accept=".csv,text/csv"
            className="sr-only"
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              // The same file can be chosen again once it was put right.
              e.target.value = "";
              if (chosen) preview.mutate(chosen);
            }}
          />
        </label>
        <ProblemNote problem={preview.error} />
        {found && (
          <>
            <p className="font-semibold" data-good={found.good} data-bad={found.bad}>
              {file?.name}: {found.good} {found.good === 1 ? "row" : "rows"} would be kept
              {found.bad > 0 && `, ${found.bad} ${found.bad === 1 ? "is" : "are"} wrong`}.
            </p>
            <div className="max-h-[320px] relative overflow-auto border-y border-ink">
              <table className="w-full border-collapse text-small">
                <caption className="sr-only">Rows of the file</caption>
                <thead>
                  <tr className="text-left text-note text-ink-2">
                    <th className="font-medium">Line</th>
                    <th className="font-medium">Where</th>
                    <th className="font-medium">As written</th>
                    <th className="font-medium">Would be kept as</th>
                  </tr>
                </thead>
                <tbody>
                  {found.rows.map((row) => (
                    <tr
                      key={row.line}
                      data-line={row.line}
                      className={`border-t border-hair ${row.problem ? "bg-steel-2" : ""}`}
                    >
                      <td className="num pr-2">{row.line}</td>
                      <td className="pr-2">{row.place}</td>
                      <td className="num pr-2">{row.reading}</td>
                      <td>
                        {row.problem ? (
                          <b>{row.problem}</b>
                        ) : (
                          row.size != null && <Figure nm={row.size} unit={unit} className="font-bold" />
                        )}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <ProblemNote problem={keep.error} />
          </>
        )}
        <div className="flex justify-end gap-3">
          <button type="button" className="btn" onClick={onClose}>
            Keep nothing
          </button>
          {found && found.good > 0 && (
            <button
              type="button"
              className="btn btn-main"
              disabled={keep.isPending}
              onClick={() => keep.mutate()}
            >
              Keep {found.good}
            </button>
          )}
        </div>
      </div>
    </Sheetlet>
  );
}
