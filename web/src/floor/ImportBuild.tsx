import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { api, Problem, type Schemas, unwrap } from "../api/client";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";

/** A file, and whether times that are ahead of the server's clock are taken as they are. */
type Sent = { file: File; ahead: boolean };

/** Imports a build from a file. The server reads it: here it only has to be JSON at all. */
export function ImportBuild({ onImported }: { onImported: (code: string) => void }) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const importing = useMutation({
    mutationFn: async ({ file, ahead }: Sent) => {
      const text = await file.text();
      const body = (): Schemas["BuildFile"] => {
        try {
          return JSON.parse(text) as Schemas["BuildFile"];
        } catch {
          throw new Problem(undefined, `${file.name} is not JSON: choose a file that Jagged Pin exported.`);
        }
      };
      // As it is: the record keeps the digest of this very file.
      return unwrap(
        api.POST("/api/v1/imports", {
          params: { query: ahead ? { ahead } : {} },
          body: body(),
          bodySerializer: () => text,
        }),
      );
    },
    onSuccess: (build) => {
      void client.invalidateQueries({ queryKey: ["floor"] });
      onImported(build.code);
    },
  });
  const sent = importing.variables;
  return (
    <>
      <button
        type="button"
        className="btn"
        onClick={() => input.current?.click()}
        disabled={importing.isPending}
      >
        Import
      </button>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        aria-label="Build file to import"
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) importing.mutate({ file, ahead: false });
        }}
      />
      <Sheetlet open={importing.isError} title="Nothing was imported" onClose={() => importing.reset()}>
        <div className="mt-4 grid gap-4">
          <ProblemNote problem={importing.error} />
          <div className="flex justify-end gap-3">
            {sent && importing.error instanceof Problem && importing.error.code === "clock_ahead" && (
              <button
                type="button"
                className="btn"
                onClick={() => importing.mutate({ file: sent.file, ahead: true })}
              >
                Take its times as they are
              </button>
            )}
            <button type="button" className="btn" onClick={() => importing.reset()}>
              Close
            </button>
          </div>
        </div>
      </Sheetlet>
    </>
  );
}
