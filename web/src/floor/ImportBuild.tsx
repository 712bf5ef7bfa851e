import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { api, Problem, type Schemas, unwrap } from "../api/client";
import { ProblemNote } from "../shared/ProblemNote";
import { Sheetlet } from "../shared/Sheetlet";

/** Imports a build from a file. The server reads it: here it only has to be JSON at all. */
export function ImportBuild({ onImported }: { onImported: (code: string) => void }) {
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const importing = useMutation({
    mutationFn: async (file: File) => {
      const text = await file.text();
      const body = (): Schemas["BuildFile"] => {
        try {
          return JSON.parse(text) as Schemas["BuildFile"];
        } catch {
          throw new Problem(undefined, `${file.name} is not JSON: choose a file that Jagged Pin exported.`);
        }
      };
      // As it is: the record keeps the digest of this very file.
      return unwrap(api.POST("/api/v1/imports", { body: body(), bodySerializer: () => text }));
    },
    onSuccess: (build) => {
      void client.invalidateQueries({ queryKey: ["floor"] });
      onImported(build.code);
    },
  });
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
          if (file) importing.mutate(file);
        }}
      />
      <Sheetlet open={importing.isError} title="Nothing was imported" onClose={() => importing.reset()}>
        <div className="mt-4 grid gap-4">
          <ProblemNote problem={importing.error} />
          <button type="button" className="btn justify-self-end" onClick={() => importing.reset()}>
            Close
          </button>
        </div>
      </Sheetlet>
    </>
  );
}
