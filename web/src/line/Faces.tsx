import { BAND, progressOf, type Seen } from "./useLine";

type FacesProps = {
  width: number;
  marks: (Seen & { station: string })[];
  bores: number;
  banks: number;
  chosen: string | undefined;
};

const TOP = 16;
const FOOT = 26;

/** The faces that a gasket seals, seen from above: the deck of each bank at the left, its head at the right. */
export function Faces({ width, marks, bores, banks, chosen }: FacesProps) {
  const face = width * 0.44;
  const height = (BAND - TOP - FOOT) / banks;
  const each = Math.max(1, Math.round(bores / banks));
  const r = Math.min(height * 0.34, face / each / 2.5);
  return (
    <g>
      {[0, 1].flatMap((side) =>
        Array.from({ length: banks }, (_, bank) => {
          const name = `${side === 0 ? "D" : "H"}${bank + 1}`;
          const seen = marks.find((m) => m.station === name);
          const x = side === 0 ? 0 : width - face;
          const y = TOP + bank * height;
          const state = name === chosen ? "k-chosen" : seen ? `k-${progressOf(seen.assessed)}` : "k-open";
          return (
            <g key={name}>
              <rect x={x} y={y} width={face} height={height - 8} rx="5" className={`k-journal ${state}`} />
              {Array.from({ length: each }, (_, i) => {
                const cx = x + (face * (i + 0.5)) / each;
                const cy = y + (height - 8) / 2;
                return side === 0 ? (
                  <circle key={cx} cx={cx} cy={cy} r={r} className="k-bore-hole" />
                ) : (
                  <path
                    key={cx}
                    d={`M${cx - r} ${cy}a${r} ${r * 0.8} 0 0 1 ${2 * r} 0a${r} ${r * 0.55} 0 0 1 ${-2 * r} 0Z`}
                    className="k-bore-hole"
                  />
                );
              })}
              <path
                d={`M${x + 6} ${y + 6}L${x + face - 6} ${y + height - 14}M${x + 6} ${y + height - 14}L${x + face - 6} ${y + 6}`}
                className={name === chosen ? "k-level k-level-on" : "k-level"}
              />
            </g>
          );
        }),
      )}
    </g>
  );
}
