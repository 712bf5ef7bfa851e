import type { Build, FigureAssessment, Unit } from "../api/client";
import { useNotes } from "../noted/useNotes";
import { SvgDigits } from "../shared/Figure";
import { lineText, plain, sizeParts } from "../shared/figure";
import { EDGE_WORD } from "../shared/words";
import { useBores } from "./useBores";

type BarrelProps = { build: Build; station: FigureAssessment; unit: Unit; width: number };

const HEIGHT = 190;
const TOP = 20;
const BOTTOM = 158;
const LEVELS = ["front", "middle", "rear"] as const;
const LEVEL_WORD = { front: "top", middle: "middle", rear: "bottom" };

/** A half section about the centre line: along the crank at the left, across at the right, walls far larger than to scale. */
export function Barrel({ build, station, unit, width }: BarrelProps) {
  const plan = useBores(build, "");
  const point = useNotes(build).data?.gauge_point;
  const cylinder = plan.data?.cylinders.find((c) => c.at === station.station);
  const target = station.target?.window;
  if (!cylinder || !target || cylinder.gaps.length === 0) return null;
  const worst = station.judged?.worst;
  const clear = (angle: number) =>
    LEVELS.flatMap((level, i) => {
      const gap = cylinder.gaps.find((g) => g.depth === level && g.angle === angle);
      if (!gap) return [];
      const state = gap.clearance === worst ? station.judged?.state : undefined;
      return [{ level, i, gap: gap.clearance, state }];
    });
  const [along, across] = [clear(90), clear(0)];
  // One exaggeration for wall and clearance: the aim is this many pixels wide.
  const perNm = 26 / Math.max(target.aim, 1);
  const px = (nm: number) => Math.max(-8, Math.min(72, nm * perNm));
  const [left, right] = [width * 0.16, width * 0.5];
  const skin = { left: left + 34, right: right - 34 };
  const y = (i: number) => TOP + 8 + (i * (BOTTOM - TOP - 16)) / 2;
  const wall = (points: { i: number; gap: number }[], base: number, side: 1 | -1) =>
    points.map((p) => `${base + side * px(p.gap)} ${y(p.i)}`).join("L");
  const rounds = LEVELS.flatMap((level, i) => {
    const found = cylinder.rounds.find((r) => r.depth === level);
    return found ? [{ level, i, out: found.out_of_round, across: found.wide_across }] : [];
  });
  const aimLeft = skin.left - px(target.aim);
  const aimRight = skin.right + px(target.aim);
  return (
    <svg
      width={width}
      height={HEIGHT}
      viewBox={`0 0 ${width} ${HEIGHT}`}
      role="img"
      aria-label={`Barrel of ${station.station}: clearance at the walls along and across, by depth`}
      className="mt-1 block border-t border-hair-strong"
    >
      <defs>
        <pattern id="b-wall" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="9" height="9" fill="var(--color-steel-1)" />
          <path d="M0 0v9" stroke="var(--color-hair-strong)" />
        </pattern>
      </defs>
      {along.length === 3 && (
        <path
          d={`M0 ${y(0)}L${wall(along, skin.left, -1)}L0 ${y(2)}Z`}
          fill="url(#b-wall)"
          className="b-wall"
        />
      )}
      {across.length === 3 && (
        <path
          d={`M${right + 90} ${y(0)}L${wall(across, skin.right, 1)}L${right + 90} ${y(2)}Z`}
          fill="url(#b-wall)"
          className="b-wall"
        />
      )}
      <path d={`M${aimLeft} ${TOP - 4}V${BOTTOM}M${aimRight} ${TOP - 4}V${BOTTOM}`} className="b-finished" />
      <path d={`M${skin.left} ${y(2) - 6}V${y(0) + 26}H${skin.right}V${y(2) - 6}Z`} className="b-piston" />
      <path
        d={`M${skin.left} ${y(0) + 36}H${skin.right}M${skin.left} ${y(0) + 46}H${skin.right}`}
        className="b-groove"
      />
      <path d={`M${skin.left - 8} ${y(2) - 22}H${skin.right + 8}`} className="b-gauge" />
      <path d={`M${(skin.left + skin.right) / 2} ${TOP - 8}V${BOTTOM + 4}`} className="b-centre" />
      {along.map((p) => (
        <WallFigure
          key={p.level}
          x={4}
          y={y(p.i)}
          text={lineText(p.gap, unit)}
          state={p.state}
          anchor="start"
        />
      ))}
      {across.map((p) => (
        <WallFigure
          key={p.level}
          x={right + 88}
          y={y(p.i)}
          text={lineText(p.gap, unit)}
          state={p.state}
          anchor="end"
        />
      ))}
      <text x={0} y={HEIGHT - 8} className="s-note">
        along the crank
      </text>
      <text x={right + 90} y={HEIGHT - 8} textAnchor="end" className="s-note">
        across, thrust
      </text>
      <text x={(left + right) / 2} y={10} textAnchor="middle" className="s-note" data-piston-at="">
        {point
          ? `piston ${plain(sizeParts(point.height, unit))} ${EDGE_WORD[point.from]}`
          : "gauge point not said yet"}
      </text>
      {rounds.map((r) => {
        const cx = width * 0.8;
        const cy = 27 + r.i * 51;
        const squash = Math.min(9, r.out * perNm * 0.5) * (r.across ? 1 : -1);
        return (
          <g key={r.level}>
            <circle cx={cx} cy={cy} r="21" className="b-ring-true" />
            <ellipse cx={cx} cy={cy} rx={19 - squash / 2} ry={19 + squash / 2} className="b-ring" />
            <text x={cx} y={cy + 5} textAnchor="middle" className="t-num t-num-heavy">
              <SvgDigits text={lineText(r.out, unit)} />
            </text>
            <text x={cx + 32} y={cy + 5} className="s-note">
              {LEVEL_WORD[r.level]}
            </text>
          </g>
        );
      })}
      <text x={width * 0.8 - 21} y={HEIGHT - 8} className="s-note">
        {unit === "in" ? "out of round, thou" : "out of round, \u00b5m"}
      </text>
    </svg>
  );
}

type WallFigureProps = {
  x: number;
  y: number;
  text: string;
  state: string | undefined;
  anchor: "start" | "end";
};

function WallFigure({ x, y, text, state, anchor }: WallFigureProps) {
  const wide = 40;
  return (
    <g>
      <rect
        x={anchor === "start" ? x - 2 : x - wide + 2}
        y={y - 10}
        width={wide}
        height="19"
        fill="var(--color-paper)"
      />
      <text
        x={x + (anchor === "start" ? 2 : -2)}
        y={y + 5}
        textAnchor={anchor}
        className={`t-num ${state ? `b-${state}` : ""}`}
      >
        <SvgDigits text={text} />
      </text>
    </g>
  );
}
