import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Schemas, type Session, type Unit, unwrap } from "../api/client";
import { gaugesQuery } from "../api/queries";
import { Choice } from "../shared/Choice";
import { Field } from "../shared/Field";
import { Digits } from "../shared/Figure";
import { fieldProblem, ProblemNote } from "../shared/ProblemNote";
import { Holds, Reach, ReachHead, reachOf } from "./GaugeRules";

type ShopGauge = Schemas["ShopGaugeView"];
type Kind = Schemas["GaugeType"];
type Texts = ShopGauge["texts"];

const KIND: Record<Kind, string> = {
  outside_mic: "Outside mic",
  ball_mic: "Ball-anvil mic",
  bore_gauge: "Bore gauge",
  indicator: "Indicator",
  caliper: "Caliper",
  strip: "Crushed strip",
  base_indicator: "Indicator on a base",
  blades: "Blades",
  radius_gauges: "Radius gauges",
  depth_mic: "Depth mic, shadow scale",
  height_gauge: "Height gauge, centres",
  transfer_gauge: "Transfer gauge, read by a mic",
};

const EMPTY: Texts = {
  resolution: "",
  repeatability: "",
  calibration: "",
  from: "",
  to: "",
  calibrated: "",
  due: "",
  between_people: "",
};

/** The gauge room: every instrument of the shop, what it reaches and how long its calibration holds. */
export function GaugeRoom({ session }: { session: Session }) {
  const gauges = useQuery(gaugesQuery);
  const [chosen, setChosen] = useState<string>();
  const all = gauges.data ?? [];
  const inches = reachOf(all);
  // Nothing chosen yet: the first that is past due wants looking at, else the first.
  const first = (all.find((g) => g.past_due) ?? all[0])?.gauge.id;
  const current = chosen ?? first;
  const shown = all.find((g) => g.gauge.id === current);
  const mayChange = session.capabilities.open_builds;
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,720fr)_minmax(0,560fr)] relative overflow-auto">
      <section aria-label="All gauges" className="px-6 pt-3">
        <div className="flex h-12 items-center gap-4">
          <h1 className="text-title font-bold">Gauge room</h1>
          {mayChange && (
            <button type="button" className="btn ml-auto" onClick={() => setChosen("")}>
              Register a gauge
            </button>
          )}
        </div>
        <div className="grad" />
        <table className="w-full border-collapse text-[14px]">
          <caption className="sr-only">Gauges of the shop</caption>
          <thead>
            <tr className="text-left text-note text-ink-2">
              <th className="py-1 font-medium">Gauge</th>
              <th className="font-medium">Step</th>
              <th className="w-[150px] pr-6 font-medium">
                Reaches, an inch a step
                <ReachHead inches={inches} />
              </th>
              <th className="w-[150px] font-medium">Calibration holds</th>
            </tr>
          </thead>
          <tbody>
            {all.map((g) => (
              <GaugeLine
                key={g.gauge.id}
                g={g}
                inches={inches}
                on={g.gauge.id === current}
                onChoose={() => setChosen(g.gauge.id)}
              />
            ))}
          </tbody>
        </table>
      </section>
      <section
        aria-label="One gauge"
        className="relative border-l-[1.5px] border-ink bg-paper pt-4 pr-6 pl-7"
      >
        <div className="grad-down absolute inset-y-0 left-0" />
        {!gauges.isSuccess ? (
          <ProblemNote problem={gauges.error} />
        ) : current === undefined || !mayChange ? (
          <p className="text-ink-2">
            {mayChange
              ? "No gauge is registered yet."
              : "An assembler or the lead registers gauges and changes their figures."}
          </p>
        ) : (
          <GaugeForm key={`${current} ${shown?.version ?? 0}`} gauge={shown} onDone={setChosen} />
        )}
      </section>
    </main>
  );
}

type GaugeLineProps = { g: ShopGauge; inches: number; on: boolean; onChoose: () => void };

function GaugeLine({ g, inches, on, onChoose }: GaugeLineProps) {
  const unit = g.unit === "in" ? "in" : "mm";
  return (
    <tr
      className={`h-11 border-b border-hair ${on ? "bg-dye-wash" : ""}`}
      data-gauge={g.gauge.id}
      data-past-due={g.past_due}
    >
      <th scope="row" className="pr-2 text-left font-semibold">
        <button type="button" className="text-left underline-offset-4 hover:underline" onClick={onChoose}>
          {g.gauge.name}
        </button>
        {g.gauge.serial && (
          <span className="num ml-2 text-note font-normal text-ink-2">{g.gauge.serial}</span>
        )}
      </th>
      <td className="num pr-3">
        <Digits text={`${g.texts.resolution} ${unit}`} />
      </td>
      <td className="pr-6">
        <Reach g={g} inches={inches} />
      </td>
      <td className="whitespace-nowrap">
        <Holds g={g} />
      </td>
    </tr>
  );
}

function GaugeForm({ gauge, onDone }: { gauge: ShopGauge | undefined; onDone: (id: string) => void }) {
  const client = useQueryClient();
  const [id, setId] = useState(gauge?.gauge.id ?? "");
  const [name, setName] = useState(gauge?.gauge.name ?? "");
  const [serial, setSerial] = useState(gauge?.gauge.serial ?? "");
  const [kind, setKind] = useState<Kind>(gauge?.gauge.kind ?? "outside_mic");
  const [unit, setUnit] = useState<Unit>(gauge?.unit ?? "in");
  const [texts, setTexts] = useState<Texts>(gauge?.texts ?? EMPTY);
  const put = useMutation({
    mutationFn: () =>
      unwrap(
        api.PUT("/api/v1/gauges/{gauge}", {
          params: { path: { gauge: id.trim() || "-" } },
          body: { name, serial, kind, unit, texts, version: gauge?.version ?? 0 },
        }),
      ),
    onSuccess: (all) => {
      client.setQueryData(gaugesQuery.queryKey, all);
      // Builds list the gauges of the room.
      void client.invalidateQueries({ queryKey: ["build"] });
      onDone(id.trim());
    },
    onError: () => void client.invalidateQueries(gaugesQuery),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    put.mutate();
  };
  const field = (key: keyof Texts, label: string, placeholder: string) => (
    <Field
      label={label}
      name={`texts.${key}`}
      value={texts[key]}
      problem={put.error}
      autoComplete="off"
      placeholder={placeholder}
      onChange={(e) => setTexts((t) => ({ ...t, [key]: e.target.value }))}
    />
  );
  return (
    <form onSubmit={submit} className="grid gap-3 pb-6">
      <h2 className="text-lead font-bold">{gauge ? gauge.gauge.name : "A new gauge"}</h2>
      <div className="grid grid-cols-2 gap-3">
        <Field
          label="Short name"
          name="gauge"
          value={id}
          problem={put.error}
          readOnly={Boolean(gauge)}
          autoComplete="off"
          placeholder="mic-3"
          onChange={(e) => setId(e.target.value)}
        />
        <Field
          label="Name"
          name="name"
          value={name}
          problem={put.error}
          autoComplete="off"
          placeholder="Outside mic 2-3 in, tenths"
          onChange={(e) => setName(e.target.value)}
        />
        <div>
          <Choice
            label="Kind"
            showLabel
            value={kind}
            options={(Object.keys(KIND) as Kind[]).map((k) => ({ value: k, text: KIND[k] }))}
            onChange={setKind}
            className="h-10 w-full"
          />
        </div>
        <div>
          <Choice
            label="Reads in"
            showLabel
            value={unit}
            options={[
              { value: "in", text: "inch" },
              { value: "mm", text: "mm" },
            ]}
            onChange={setUnit}
            className="h-10 w-full"
          />
        </div>
        {field("resolution", "Smallest step", unit === "in" ? "0.0001" : "0.001")}
        {field("repeatability", "Repeats within (1 s)", unit === "in" ? "0.00003" : "0.0008")}
        {field("calibration", "Calibration, U at k = 2", unit === "in" ? "0.0001" : "0.002")}
        <Field
          label="Number on it"
          name="serial"
          value={serial}
          problem={put.error}
          autoComplete="off"
          placeholder="SM-01234"
          onChange={(e) => setSerial(e.target.value)}
        />
        {field("from", "Reaches from", unit === "in" ? "2" : "50")}
        {field("to", "to", unit === "in" ? "3" : "75")}
        {field("between_people", "Differs from person to person by (1 s)", "not studied")}
        {field("calibrated", "Calibrated on", "2026-03-02")}
        {field("due", "Due", "2027-03-02")}
      </div>
      <p className="text-note text-ink-2">
        Open builds find it at hand as it is now. What was measured before keeps the gauge as it was then: a
        later calibration changes nothing of it.
      </p>
      {!fieldProblem(put.error, "name") && <ProblemNote problem={put.error} />}
      <div className="flex justify-end">
        <button type="submit" className="btn btn-main" disabled={put.isPending}>
          {gauge ? "Keep the changes" : "Register it"}
        </button>
      </div>
    </form>
  );
}
