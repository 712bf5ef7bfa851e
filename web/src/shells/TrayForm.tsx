import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Build, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Choice } from "../shared/Choice";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { ProblemNote } from "../shared/ProblemNote";
import type { Row } from "./ShellsHead";
import { TrayRack } from "./TrayRack";

type Typed = Schemas["TypedShell"];

type TrayFormProps = { build: Build; row: Row; view: Schemas["TrayView"] };

/** The tray as a rack of walls, and the entry of one half after the other. */
export function TrayForm({ build, row, view }: TrayFormProps) {
  const client = useQueryClient();
  const gauges = build.gauges.filter((g) => g.gauge.measures === "wall");
  const [gauge, setGauge] = useState(view.tray?.gauge ?? gauges[0]?.gauge.id ?? "");
  const [shells, setShells] = useState<Typed[]>(view.typed);
  const [mark, setMark] = useState("");
  const [half, setHalf] = useState<"upper" | "lower">("upper");
  const [wall, setWall] = useState("");
  const changed =
    JSON.stringify(shells) !== JSON.stringify(view.typed) || gauge !== (view.tray?.gauge ?? gauge);
  const record = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/tray", {
          params: { path: { build: build.code } },
          body: { id: newId(), version: view.version, row, gauge, shells },
        }),
      ),
    onSuccess: (recorded) => showRecorded(client, recorded),
  });
  const add = (event: FormEvent) => {
    event.preventDefault();
    if (mark.trim() === "" || wall.trim() === "") return;
    setShells([...shells, { mark: mark.trim(), half, wall: wall.trim() }]);
    setMark(nextMark(mark.trim()));
    setWall("");
  };
  return (
    <>
      <div className="flex items-center gap-3">
        <h2 className="text-lead font-bold">The tray</h2>
        <span className="flex-1" />
        {gauges.length > 1 && (
          <Choice
            label="Gauge"
            value={gauge}
            options={gauges.map((g) => ({ value: g.gauge.id, text: g.gauge.name }))}
            onChange={setGauge}
            className="h-8 w-[200px]"
          />
        )}
      </div>
      <TrayRack
        shells={shells}
        used={view.proposal?.places.flatMap((p) => [
          { mark: p.upper.mark, station: p.station },
          { mark: p.lower.mark, station: p.station },
        ])}
        onRemove={(gone) => setShells(shells.filter((s) => s.mark !== gone))}
      />
      <form onSubmit={add} className="mt-3 grid grid-cols-[70px_96px_1fr_auto] items-end gap-2">
        <Field
          label="Mark"
          name="mark"
          value={mark}
          autoComplete="off"
          onChange={(e) => setMark(e.target.value)}
          figure
        />
        <div>
          <span className="mb-1 block text-small text-ink-2">Side</span>
          <Choice
            label="Side"
            value={half}
            options={[
              { value: "upper", text: "upper" },
              { value: "lower", text: "lower" },
            ]}
            onChange={setHalf}
            className="h-10 w-full"
          />
        </div>
        <Field
          label="Wall, at the middle"
          name="wall"
          value={wall}
          problem={record.error}
          autoComplete="off"
          onChange={(e) => setWall(e.target.value)}
          figure
        />
        <button type="submit" className="btn">
          Add
        </button>
      </form>
      <ProblemNote problem={record.error} />
      <div className="mt-3 flex items-center justify-end gap-3">
        <span className="text-small text-ink-2">{shells.length} halves</span>
        <button
          type="button"
          className="btn btn-main"
          disabled={!changed || record.isPending}
          onClick={() => record.mutate()}
        >
          Keep this tray
        </button>
      </div>
    </>
  );
}

/** A12 after A11: marks go on by themselves. */
export function nextMark(mark: string): string {
  const number = /^(.*?)(\d+)$/.exec(mark);
  return number ? `${number[1]}${Number(number[2]) + 1}` : "";
}
