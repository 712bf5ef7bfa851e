import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { rolesQuery } from "../api/queries";
import { Box } from "../shared/Box";
import { ProblemNote } from "../shared/ProblemNote";

type RoleView = Schemas["RoleView"];
type Capability = keyof Schemas["Capabilities"];

const CAPABILITIES: [Capability, string][] = [
  ["measure", "Measure, look, record work and set-ups"],
  ["strike_others", "Strike what somebody else read"],
  ["correct_shelf", "Correct the count of a shelf"],
  ["open_builds", "Open, import and put away builds; register gauges"],
  ["set_targets", "Set targets, rules and places; change families"],
  ["concede", "Accept an edge or loose; order work; put parts in"],
  ["concede_tight", "Accept what is tight"],
  ["sign_assembler", "Sign as assembler"],
  ["sign_checker", "Sign as checker"],
  ["run_shop", "Run the shop: people, roles, where targets start; remove builds"],
];

/** What each role allows, in one table. */
export function RoleTable({ roles, mayChange }: { roles: RoleView[]; mayChange: boolean }) {
  const client = useQueryClient();
  const put = useMutation({
    mutationFn: ({ role, what }: { role: RoleView; what: Capability }) =>
      unwrap(
        api.PUT("/api/v1/roles/{role}", {
          params: { path: { role: role.name } },
          body: {
            capabilities: { ...role.capabilities, [what]: !role.capabilities[what] },
            version: role.version,
          },
        }),
      ),
    onSuccess: (all) => {
      client.setQueryData(rolesQuery.queryKey, all);
      // It may have been one's own role.
      void client.invalidateQueries({ queryKey: ["session"] });
    },
    onError: () => void client.invalidateQueries(rolesQuery),
  });
  return (
    <>
      <table className="w-full border-collapse text-[14px]">
        <caption className="sr-only">What each role allows</caption>
        <thead>
          <tr className="border-b border-ink text-left align-bottom">
            <td />
            {roles.map((role) => (
              <th key={role.name} scope="col" className="w-[104px] pb-1 text-center font-semibold">
                {role.name}
                <span className="block text-note font-normal text-ink-2">
                  {role.people.join(", ") || "nobody"}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {CAPABILITIES.map(([what, text]) => (
            <tr key={what} className="h-10 border-b border-hair">
              <th scope="row" className="pr-3 text-left font-medium">
                {text}
              </th>
              {roles.map((role) => (
                <td key={role.name} className="text-center">
                  <Allowed
                    name={`${role.name}: ${text}`}
                    mark={`${role.name} ${what}`}
                    on={role.capabilities[what]}
                    onPress={mayChange && !put.isPending ? () => put.mutate({ role, what }) : undefined}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2">
        <ProblemNote problem={put.error} />
      </div>
    </>
  );
}

type AllowedProps = { name: string; mark: string; on: boolean; onPress: (() => void) | undefined };

/** Allowed by shape and word, not by hue alone. */
function Allowed({ name, mark, on, onPress }: AllowedProps) {
  const look = `inline-flex h-8 w-[72px] items-center justify-center gap-1.5 text-small ${on ? "font-bold text-dye" : "text-ink-2"}`;
  const word = on ? "may" : "no";
  if (!onPress)
    return (
      <span className={look} data-allowed={mark} data-on={on}>
        <Box on={on} />
        {word}
      </span>
    );
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={`${word}: ${name}`}
      data-allowed={mark}
      data-on={on}
      className={look}
      onClick={onPress}
    >
      <Box on={on} />
      {word}
    </button>
  );
}
