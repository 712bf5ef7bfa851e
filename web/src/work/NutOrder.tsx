/** Middle of the upper and of the lower nut. */
const ROWS = [16, 52] as const;
const HEIGHT = 68;

type NutOrderProps = {
  /** The caps in the order in which they are drawn down, with the middle of each; none where each is a joint of its own. */
  order: { station: string; x: number }[];
  /** Whether the count goes on from cap to cap. */
  together: boolean;
  width: number;
};

/** A flat-sided nut around its number. */
function hexagon(x: number, y: number, r: number): string {
  const corner = (i: number) => {
    const angle = (Math.PI / 3) * i;
    return `${x + r * Math.cos(angle)} ${y + r * Math.sin(angle)}`;
  };
  return `M${[0, 1, 2, 3, 4, 5].map(corner).join("L")}Z`;
}

/** In which order the nuts are tightened, seen from below, with the way from one to the next. */
export function NutOrder({ order, together, width }: NutOrderProps) {
  const nuts = order.flatMap(({ station, x }, i) =>
    ROWS.map((y, j) => ({ key: `${station} ${j}`, x, y, number: (together ? 2 * i : 0) + j + 1 })),
  );
  return (
    <svg width={width} height={HEIGHT} role="img" aria-label={spoken(order, together)} className="block">
      {order.map(({ station, x }) => (
        <rect key={station} x={x - 13} y="3" width="26" height="62" className="fill-steel-3 stroke-steel-4" />
      ))}
      {together && (
        <path
          d={`M${nuts.map((n) => `${n.x} ${n.y}`).join("L")}`}
          fill="none"
          className="stroke-dye"
          strokeWidth="1"
          strokeDasharray="4 3"
        />
      )}
      {nuts.map((n) => (
        <g key={n.key}>
          <path d={hexagon(n.x, n.y, 13)} className="fill-paper stroke-ink" strokeWidth="1.5" />
          <text x={n.x} y={n.y + 4.5} textAnchor="middle" className="num fill-ink text-[13px] font-bold">
            {n.number}
          </text>
        </g>
      ))}
    </svg>
  );
}

function spoken(order: NutOrderProps["order"], together: boolean): string {
  const names = order.map((o) => o.station).join(", ");
  return together
    ? `Order of the caps: ${names}, right nut before left`
    : `Each of ${names}: right nut before left`;
}
