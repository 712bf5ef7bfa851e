import { characteristicRow } from "../api/catalog";
import type { Build, FigureAssessment, Gauge, GaugeUse } from "../api/client";

/** Gauges for what is measured at a place that way, which reach what is expected there; all of them where none does. */
export function gaugesReaching(build: Build, station: FigureAssessment, use: GaugeUse): Gauge[] {
  const measures = build.gauges.filter((g) => g.gauge.measures === use);
  const there = station.measured.filter((m) => characteristicRow(m.characteristic).gauge === use);
  const expected = there.flatMap((m) => m.positions.map((p) => p.expected)).find((nm) => nm > 0);
  const reaching = measures.filter(({ gauge: { range } }) => {
    return expected == null || !range || (range.from <= expected && expected <= range.to);
  });
  return reaching.length > 0 ? reaching : measures;
}
