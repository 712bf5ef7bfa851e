import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { newId } from "../shared/id";
import { useShownUnit } from "../shared/units";

export type Written = Omit<Schemas["NewSetUp"], "id" | "version" | "row" | "unit">;
export type Group = NonNullable<Written["groups"]>[number];
type Half = "upper" | "lower";

/** Fields for torque steps offered at once. */
const STEPS = 4;

function padded(steps: string[]): string[] {
  return Array.from({ length: Math.max(STEPS, steps.length) }, (_, i) => steps[i] ?? "");
}

/** What a set-up in force says, as it is written in the form. Where nobody said anything yet, nothing is ticked. */
function writtenOf(inForce: Schemas["SetUpView"] | undefined): Written {
  const was = inForce?.set_up;
  return {
    fastener: was?.fastener ?? "studs",
    fasteners: was?.fasteners ?? "",
    washers: was?.washers ?? null,
    as_finished: was?.as_finished ?? false,
    lubricant: was?.lubricant ?? "",
    lubricated: was?.lubricated ?? null,
    steps: padded(inForce?.steps ?? []),
    groups: (was?.groups ?? []).map((g, i) => ({ ...g, steps: inForce?.group_steps[i] ?? [] })),
    drawn_square: was?.drawn_square ?? false,
    washers_chamfer_up: was?.washers_chamfer_up ?? false,
    caps: was?.caps ?? [],
    shells: was?.shells ?? [],
  };
}

/** The set-up of a row as it is being written, with what recording it would end. */
export function useSetUp(
  build: Build,
  row: Schemas["BearingRow"],
  inForce: Schemas["SetUpView"] | undefined,
) {
  const client = useQueryClient();
  const unit = useShownUnit(build.unit);
  const [id, setId] = useState(newId);
  const [was] = useState(() => writtenOf(inForce));
  const [written, setWritten] = useState(was);
  const set = (changed: Partial<Written>) => setWritten((w) => ({ ...w, ...changed }));
  const body: Schemas["NewSetUp"] = {
    ...written,
    shells: written.shells.filter((s) => s.upper.trim() !== "" && s.lower.trim() !== ""),
    id,
    version: inForce?.version ?? 0,
    row,
    unit,
  };
  const params = { path: { build: build.code } };
  const text = JSON.stringify(written);
  const dirty = text !== JSON.stringify(was);
  const complete = [written, ...(written.groups ?? [])].every(
    (g) => [g.fasteners, g.lubricant].every((t) => t.trim() !== "") && g.steps.some((s) => s.trim() !== ""),
  );
  const impact = useQuery({
    queryKey: ["impact", build.code, build.assessment.seq, row, text],
    queryFn: () => unwrap(api.POST("/api/v1/builds/{build}/set-ups/impact", { params, body })),
    enabled: dirty && complete,
    retry: false,
  });
  const record = useMutation({
    mutationFn: () => unwrap(api.POST("/api/v1/builds/{build}/set-ups", { params, body })),
    onSuccess: (recorded) => {
      setId(newId());
      showRecorded(client, recorded);
    },
  });

  const capOf = (station: string) =>
    written.caps.find((c) => c.station === station) ?? {
      station,
      cap: Number(station.slice(1)),
      forward: true,
    };
  const setCap = (station: string, to: { cap?: number; forward?: boolean }) => {
    const seat = { ...capOf(station), ...to };
    const own = seat.cap === Number(station.slice(1)) && seat.forward;
    set({ caps: [...written.caps.filter((c) => c.station !== station), ...(own ? [] : [seat])] });
  };
  const shellIn = (station: string, half: Half, of: Written = written) =>
    of.shells.find((s) => s.station === station)?.[half] ?? "";
  const setShell = (station: string, half: Half, to: string) => {
    const known = written.shells.find((s) => s.station === station) ?? { station, upper: "", lower: "" };
    set({ shells: [...written.shells.filter((s) => s.station !== station), { ...known, [half]: to }] });
  };
  const differs = (station: string, half: Half) => shellIn(station, half) !== shellIn(station, half, was);
  return { written, set, dirty, complete, impact, record, capOf, setCap, shellIn, setShell, differs };
}

export type SetUpState = ReturnType<typeof useSetUp>;
