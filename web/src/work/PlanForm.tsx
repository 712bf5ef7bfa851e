import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Build, Problem, type Schemas, unwrap } from "../api/client";
import { showRecorded } from "../api/queries";
import { Choice } from "../shared/Choice";
import { newId } from "../shared/id";
import { CHARACTERISTIC_WORD } from "../shared/words";
import { ChangeWhy } from "./ChangeWhy";

type Planned = Schemas["Planned"];
type Axial = Schemas["Position"]["axial"];

const AXIAL: Axial[] = ["front", "middle", "rear"];
/** Directions offered at once, besides those a plan has. */
const ANGLES = [-60, -45, -30, 0, 30, 45, 60, 90];

const at = (plan: Planned[], axial: Axial, angle: number) =>
  plan.findIndex((p) => p.position.axial === axial && p.position.angle === angle);

/** What a press makes of a place: not touched, then counting, then informing, then not touched again. */
export function turned(plan: Planned[], axial: Axial, angle: number): Planned[] {
  const i = at(plan, axial, angle);
  if (i < 0) return [...plan, { position: { axial, angle }, advisory: false }];
  if (plan[i]?.advisory) return plan.filter((_, j) => j !== i);
  return plan.map((p, j) => (j === i ? { ...p, advisory: true } : p));
}

/** Where each feature is touched, and in which order; changed with a reason, and recorded. */
export function PlanForm({ build }: { build: Build }) {
  const [chosen, setChosen] = useState(() => (build.plans[0] ? nameOf(build.plans[0]) : ""));
  const plan = build.plans.find((p) => nameOf(p) === chosen);
  if (!plan) return null;
  return (
    <div className="grid grid-cols-[150px_1fr] items-start gap-4">
      <Choice
        label="What is touched"
        value={chosen}
        options={build.plans.map((p) => ({ value: nameOf(p), text: nameOf(p) }))}
        onChange={setChosen}
        className="h-9 w-full text-small"
      />
      <Places key={JSON.stringify(plan)} build={build} of={plan} />
    </div>
  );
}

type PlacesProps = { build: Build; of: Schemas["PlanView"] };

const AT_WORD: Partial<Record<Schemas["PlaceKind"], string>> = { main: "of mains", rod: "of rods" };

/** What is touched, and where the engine has it twice, at which kind of place. */
function nameOf({ characteristic, at }: Schemas["PlanView"]): string {
  const where = at && AT_WORD[at];
  return where ? `${CHARACTERISTIC_WORD[characteristic]}, ${where}` : CHARACTERISTIC_WORD[characteristic];
}

function Places({ build, of }: PlacesProps) {
  const seen = of.positions;
  const client = useQueryClient();
  const [id] = useState(newId);
  const [plan, setPlan] = useState(seen);
  const [reason, setReason] = useState("");
  const own = plan.map((p) => p.position.angle);
  const angles = [...new Set([...ANGLES, ...own])].sort((a, b) => a - b);
  const dirty = JSON.stringify(plan) !== JSON.stringify(seen);
  const record = useMutation({
    mutationFn: () =>
      unwrap(
        api.POST("/api/v1/builds/{build}/plans", {
          params: { path: { build: build.code } },
          body: { id, characteristic: of.characteristic, at: of.at ?? null, seen, positions: plan, reason },
        }),
      ),
    onSuccess: (recorded) => showRecorded(client, recorded),
    onError: (error) => {
      if (error instanceof Problem && error.code === "changed_meanwhile") {
        void client.invalidateQueries({ queryKey: ["build", build.code] });
      }
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    record.mutate();
  };
  return (
    <form onSubmit={submit} className="grid gap-2">
      <table>
        <caption className="sr-only">Places of the {nameOf(of)}, by direction</caption>
        <thead>
          <tr className="text-note text-ink-2">
            <td />
            {angles.map((angle) => (
              <th key={angle} scope="col" className="num pb-0.5 font-normal">
                {angle}&deg;
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {AXIAL.map((axial) => (
            <tr key={axial}>
              <th scope="row" className="pr-2 text-left text-small font-medium">
                {axial}
              </th>
              {angles.map((angle) => {
                const i = at(plan, axial, angle);
                const advisory = plan[i]?.advisory ?? false;
                return (
                  <td key={angle} className="p-px">
                    <Place
                      name={`${axial} ${angle}\u00b0`}
                      order={i < 0 ? undefined : i + 1}
                      advisory={advisory}
                      onPress={() => setPlan((p) => turned(p, axial, angle))}
                    />
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-note leading-snug text-ink-2">
        Numbers are the order of the touches. Filled counts for the size, outlined informs (relief). Never
        across the oil hole.
      </p>
      {dirty && (
        <ChangeWhy
          name="plan-reason"
          reason={reason}
          problem={record.error}
          busy={record.isPending}
          action="Change the places"
          onReason={setReason}
          onLeave={() => setPlan(seen)}
        />
      )}
    </form>
  );
}

type PlaceProps = { name: string; order: number | undefined; advisory: boolean; onPress: () => void };

function Place({ name, order, advisory, onPress }: PlaceProps) {
  const means = order === undefined ? "not touched" : advisory ? `${order}, informs` : `${order}, counts`;
  const look =
    order === undefined
      ? "border-hair bg-steel-2"
      : advisory
        ? "border-dye border-dashed bg-paper text-dye"
        : "border-dye bg-dye text-white";
  return (
    <button
      type="button"
      aria-label={`${name}: ${means}`}
      data-place={name}
      className={`num block h-7 w-full min-w-8 border text-small font-bold ${look}`}
      onClick={onPress}
    >
      {order}
    </button>
  );
}
