import type { Schemas, Unit } from "../api/client";
import { SvgDigits } from "../shared/Figure";
import { clearanceParts, plain, sizeParts } from "../shared/figure";

type OversizeScaleProps = { plan: Schemas["BoringPlan"]; unit: Unit; chosen: string; width: number };

/** Room before the scale for the names of the bores, and behind it for a last figure. */
const NAMES = 34;
const BEHIND = 34;
/** Room above for the oversizes, and the height of a bore's bar, in pixels. */
const ABOVE = 36;
const ROW = 17;
/** The height of a whole wall as it is drawn. */
const WALL = 44;

/**
 * What every bore needs to clean up, on one scale of diameters with the oversizes that can be bought, and below each of them the
 * thinnest wall that it leaves.
 */
export function OversizeScale({ plan, unit, chosen, width }: OversizeScaleProps) {
  const known = plan.cylinders.filter((c) => c.needs != null);
  const last = plan.options.at(-1);
  if (known.length === 0 || !last) return null;
  const reach = (c: Schemas["CylinderWorn"]) => (c.needs ?? 0) + (c.expanded ?? 0);
  const most = Math.max(last.finished, ...known.map(reach)) - plan.standard;
  const x = (nm: number) => NAMES + ((nm - plan.standard) / Math.max(1, most)) * (width - NAMES - BEHIND);
  const bottom = ABOVE + ROW * plan.cylinders.length + 6;
  const walls = plan.options.filter((o) => o.wall != null);
  const thickest = Math.max(1, ...walls.map((o) => o.wall ?? 0));
  const height = bottom + (walls.length > 0 ? WALL + 26 : 4);
  const size = (nm: number) => plain(sizeParts(nm, unit));
  return (
    <svg
      role="img"
      aria-label={`What each bore needs to clean up: ${known.map((c) => `${c.at} ${size(c.needs ?? 0)}`).join(", ")}.`}
      width={width}
      height={height}
      className="mt-2 block"
    >
      <text x={0} y={14} className="t-note">
        over
      </text>
      {plan.options.map((o) => (
        <g key={o.oversize} transform={`translate(${x(o.finished)} 0)`} data-oversize-at={o.oversize}>
          <text
            y={14}
            textAnchor="middle"
            className={o.oversize === plan.chosen ? "t-num t-num-heavy" : "t-num"}
          >
            <SvgDigits text={plain(clearanceParts(o.oversize, unit))} />
          </text>
          <path
            d={`M0 20V${bottom}`}
            className={o.oversize === plan.chosen ? "over-chosen" : o.cleans ? "over-cleans" : "over-short"}
          />
        </g>
      ))}
      {plan.cylinders.map((c, i) => {
        const y = ABOVE + ROW * i;
        return (
          <g key={c.at} data-needs={c.at}>
            <text x={0} y={y + 11} className={c.at === plan.decided_by ? "t-word" : "s-note"}>
              {c.at}
            </text>
            {c.needs == null ? (
              <text x={NAMES} y={y + 11} className="t-note">
                not measured
              </text>
            ) : (
              <>
                <rect
                  x={NAMES}
                  y={y + 2}
                  width={Math.max(1, x(c.needs) - NAMES)}
                  height={ROW - 7}
                  className={c.at === chosen ? "over-bar over-here" : "over-bar"}
                />
                <path
                  d={`M${Math.max(NAMES, x(c.needs - (c.expanded ?? 0)))} ${y + ROW / 2 - 1.5}H${x(reach(c))}`}
                  className="over-doubt"
                />
              </>
            )}
          </g>
        );
      })}
      {walls.map((o) => (
        <g key={o.oversize} transform={`translate(${x(o.finished)} ${bottom + 4})`} data-wall-at={o.oversize}>
          <rect
            x={-7}
            width={14}
            height={((o.wall ?? 0) / thickest) * WALL}
            className={o.thin.length > 0 ? "over-wall over-thin" : "over-wall"}
          />
          <text y={WALL + 18} textAnchor="middle" className={o.thin.length > 0 ? "t-num over-word" : "t-num"}>
            <SvgDigits text={plain(clearanceParts(o.wall ?? 0, unit))} />
          </text>
        </g>
      ))}
      {walls.length > 0 && (
        <text x={0} y={bottom + 16} className="t-note">
          wall
        </text>
      )}
    </svg>
  );
}
