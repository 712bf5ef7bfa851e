import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, type Unit, unwrap } from "../api/client";

export type Bench = Schemas["BenchView"];

/** The other builds on the floor, with the sitting of a gauge that goes on there; none where nobody asks. */
export function useBenches(build: string, gauge: string, unit: Unit, asked: boolean): Bench[] {
  const benches = useQuery({
    queryKey: ["benches", gauge, unit],
    queryFn: () =>
      unwrap(api.GET("/api/v1/gauges/{gauge}/benches", { params: { path: { gauge }, query: { unit } } })),
    enabled: asked,
  });
  return (benches.data ?? []).filter((bench) => bench.code !== build);
}

type BenchesProps = {
  benches: Bench[];
  legend: string;
  chosen: string[];
  onChange: (chosen: string[]) => void;
};

/** Chooses the other builds that one look at the standard serves. */
export function Benches({ benches, legend, chosen, onChange }: BenchesProps) {
  const all = benches.length === chosen.length;
  const toggle = (code: string) =>
    onChange(chosen.includes(code) ? chosen.filter((c) => c !== code) : [...chosen, code]);
  return (
    <fieldset>
      <legend className="mb-1 text-small text-ink-2">{legend}</legend>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-0.5">
        {benches.map((bench) => (
          <label key={bench.code} className="flex min-h-9 items-center gap-2" title={bench.engine}>
            <input
              type="checkbox"
              className="size-5 accent-dye"
              checked={chosen.includes(bench.code)}
              onChange={() => toggle(bench.code)}
            />
            <span className="num font-semibold">{bench.code}</span>
          </label>
        ))}
        <button
          type="button"
          className="h-9 px-1.5 text-small text-ink-2 underline underline-offset-2"
          onClick={() => onChange(all ? [] : benches.map((bench) => bench.code))}
        >
          {all ? "None" : "All of them"}
        </button>
      </div>
    </fieldset>
  );
}
