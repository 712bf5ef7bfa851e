import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Build, type Unit, unwrap } from "../api/client";
import { Figure } from "../shared/Figure";
import { ProblemNote } from "../shared/ProblemNote";
import { SmallField } from "../shared/SmallField";

/** The hatch of the hone, both ways: cycles for an angle, and the angle that cycles give. Always the included one. */
export function Hatch({ build, unit }: { build: Build; unit: Unit }) {
  const [form, setForm] = useState({ length: "", over: "", stone: "", rpm: "", cycles: "", angle: "45" });
  const number = (text: string) => (text.trim() === "" ? Number.NaN : Number(text));
  const [rpm, angle, cycles] = [number(form.rpm), number(form.angle), number(form.cycles)];
  const complete =
    [form.length, form.over, form.stone].every((t) => t.trim() !== "") &&
    Number.isFinite(rpm) &&
    Number.isFinite(angle);
  const hatch = useQuery({
    queryKey: ["hatch", build.code, form],
    queryFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/crosshatch", {
          params: { path: { build: build.code } },
          body: {
            length: form.length,
            over: form.over,
            stone: form.stone,
            rpm,
            angle,
            cycles: Number.isFinite(cycles) ? cycles : null,
          },
        }),
      ),
    enabled: complete,
    retry: false,
  });
  const field = (name: keyof typeof form, label: string, usual: string) => (
    <SmallField
      above
      label={label}
      name={name}
      value={form[name]}
      usual={usual}
      onChange={(text) => setForm((f) => ({ ...f, [name]: text }))}
    />
  );
  const lengths = unit === "in" ? ["6.0", "0.8", "2.0"] : ["152", "20", "50"];
  return (
    <section aria-label="Hatch" className="mt-3 border-t border-hair-strong pt-2">
      <h3 className="text-small font-bold">Hatch, included angle</h3>
      <div className="mt-1 flex flex-wrap gap-x-3 gap-y-1.5">
        {field("length", "Bore long", lengths[0] ?? "")}
        {field("over", "Over each end", lengths[1] ?? "")}
        {field("stone", "Stone long", lengths[2] ?? "")}
        {field("rpm", "Turns a minute", "170")}
        {field("angle", "Wanted, degrees", "45")}
        {field("cycles", "Cycles a minute", "asked for")}
      </div>
      {complete && hatch.data && (
        <p className="mt-1.5 leading-snug" data-hatch={hatch.data.cycles.toFixed(0)}>
          <b>
            <span className="num">{hatch.data.cycles.toFixed(0)}</span> cycles a minute
          </b>{" "}
          for {form.angle}° included, {hatch.data.to_horizontal.toFixed(1)}° to the horizontal; the stone
          travels <Figure nm={hatch.data.stroke} unit={unit} />.
          {hatch.data.angle != null && (
            <>
              {" "}
              {form.cycles} cycles give <b className="num">{hatch.data.angle.toFixed(1)}°</b> included.
            </>
          )}
        </p>
      )}
      <ProblemNote problem={hatch.error} />
    </section>
  );
}
