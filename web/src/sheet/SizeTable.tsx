import { bearingsOf } from "../api/catalog";
import type { Build, FigureAssessment, Measured, Role, Row, Unit } from "../api/client";
import { Digits, Figure } from "../shared/Figure";
import { stepText } from "../shared/figure";
import { ZERO_SHORT } from "../shared/words";

type SizeTableProps = { build: Build; row: Row; unit: Unit };

const PARTS: [Role, string][] = [
  ["journal", "Journal"],
  ["housing", "Housing"],
  ["upper_wall", "Upper wall"],
  ["lower_wall", "Lower wall"],
];

/** Sizes and shapes behind the clearances: every part that was measured, and what the bore gauge was zeroed in. */
export function SizeTable({ build, row, unit }: SizeTableProps) {
  const bearings = bearingsOf(build, row);
  const of = (s: FigureAssessment, role: Role) => s.measured.find((m) => m.role === role && m.size);
  const shown = PARTS.filter(([role]) => bearings.some((s) => of(s, role)));
  if (shown.length === 0) return null;
  const name = row === "mains" ? "Main" : "Rod";
  return (
    <table
      className="mt-3 w-full border-collapse text-small"
      aria-label={`Sizes and shapes, ${name.toLowerCase()}s`}
    >
      <thead>
        <tr className="h-6 border-b border-ink text-left text-ink-2">
          <th className="w-[6%] font-medium">{name}</th>
          {shown.map(([role, text]) => (
            <th key={role} className="font-medium">
              {text}, taper, out of round
            </th>
          ))}
          <th className="font-medium">Bore: taper, relief</th>
          <th className="font-medium">Zeroed in</th>
        </tr>
      </thead>
      <tbody>
        {bearings.map((s) => {
          const judged = s.methods.find((m) => m.method === s.judged?.method);
          const bore = s.measured.find((m) => m.role === "bore" && m.size);
          return (
            <tr key={s.station} className="h-[24px] border-b border-hair" data-sizes={s.station}>
              <th scope="row" className="text-left">
                {s.station}
              </th>
              {shown.map(([role]) => (
                <td key={role}>
                  <SizeText m={of(s, role)} unit={unit} />
                </td>
              ))}
              <td>{bore?.size ? <Pair a={bore.size.taper} b={bore.size.relief} unit={unit} /> : "\u2013"}</td>
              <td className="whitespace-nowrap text-ink-2">{judged?.zero ? ZERO_SHORT[judged.zero] : ""}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function SizeText({ m, unit }: { m: Measured | undefined; unit: Unit }) {
  if (!m?.size) return <span className="text-ink-3">–</span>;
  return (
    <>
      <Figure nm={m.size.effective} unit={unit} className="font-bold" />
      <span className="ml-2 text-ink-2">
        <Pair a={m.size.taper} b={m.size.out_of_round} unit={unit} />
      </span>
    </>
  );
}

/** Two small differences in bench steps. */
function Pair({ a, b, unit }: { a: number; b: number | null | undefined; unit: Unit }) {
  const text = b == null ? "\u2013" : stepText(b, unit);
  return (
    <span className="num">
      <Digits text={stepText(a, unit)} />, <Digits text={text} />
    </span>
  );
}
